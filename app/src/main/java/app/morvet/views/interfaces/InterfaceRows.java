package app.morvet.views.interfaces;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.alert.ReliefTrack;
import app.morvet.core.alert.Severity;
import app.morvet.core.messages.Delays;
import app.morvet.core.messages.InterfaceState;
import app.morvet.core.messages.UsualTraffic;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Figures;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** How every interface stands right now: what it carried beside what is usual, what is open, late, silent or not running. */
@Service
class InterfaceRows {
    private static final Duration TRACK = Duration.ofHours(24);
    private static final int TRACK_WIDTH = 190;

    /**
     * One interface.
     *
     * @param mark     relief mark; steady where nothing needs eyes
     * @param severity how bad, or null where nothing needs eyes
     * @param troubles what is wrong, in words, the worst first
     * @param carried  today, delivered and failed
     * @param usual    what is usual by this time of the day; empty where that is not known
     * @param median   of the delays over the last hour or two; empty where nothing was delivered
     * @param p95      within which 95 % of them were delivered
     */
    record Row(
            Estate.Component component,
            String application,
            String owner,
            String mark,
            @Nullable Severity severity,
            List<String> troubles,
            long carried,
            String usual,
            long failed,
            long open,
            String oldest,
            String median,
            String p95,
            String usualDelay,
            boolean late,
            List<ReliefTrack.Rise> track) {}

    private final InterfaceStore store;
    private final Today today;
    private final Usuals usuals;
    private final Alerts alerts;
    private final Estate estate;
    private final Times times;

    InterfaceRows(InterfaceStore store, Today today, Usuals usuals, Alerts alerts, Estate estate, Times times) {
        this.store = store;
        this.today = today;
        this.usuals = usuals;
        this.alerts = alerts;
        this.estate = estate;
        this.times = times;
    }

    /** What all are reckoned from, asked for once. */
    private record Facts(
            Instant now,
            Instant midnight,
            Map<Long, InterfaceStore.Day> days,
            Map<Long, InterfaceStore.Open> open,
            Map<Long, Delays> delays,
            Map<Long, InterfaceState> states,
            Map<Long, UsualTraffic> usual,
            UsualTraffic unknown,
            Map<Long, Instant> lastCarried,
            Map<Long, Alerts.Up> up) {}

    /** More than a screen holds; the rest comes when somebody asks for it. */
    static final int SHOWN = 40;

    /**
     * @param first  of those that need eyes the first, the worst on top
     * @param others how many more there are
     * @param quiet  how many carry as usual, and what they carried today
     */
    record Overview(List<Row> first, int others, int quiet, long quietCarried) {}

    /** Those that need eyes, and in one line the others. */
    Overview overview() {
        var facts = facts();
        var standings = standings(facts);
        var needEyes = needEyes(standings);
        var quiet = standings.stream().filter(one -> one.severity() == null).toList();
        var first = needEyes.subList(0, Math.min(SHOWN, needEyes.size()));
        return new Overview(
                rows(first, facts),
                needEyes.size() - first.size(),
                quiet.size(),
                quiet.stream().mapToLong(one -> one.day().carried()).sum());
    }

    /** Those that need eyes and are not among the first. */
    List<Row> others() {
        var facts = facts();
        return rows(needEyes(standings(facts)).stream().skip(SHOWN).toList(), facts);
    }

    /** Those that carry as usual, by name. */
    List<Row> quiet() {
        var facts = facts();
        return rows(
                standings(facts).stream().filter(one -> one.severity() == null).toList(), facts);
    }

    private List<Standing> standings(Facts facts) {
        return estate.interfaces().stream().map(one -> standing(one, facts)).toList();
    }

    /** The worst on top, and of those the ones of which most is open. */
    private static List<Standing> needEyes(List<Standing> all) {
        return all.stream()
                .filter(one -> one.severity() != null)
                .sorted(Comparator.comparing(Standing::severity)
                        .thenComparing(Standing::messagesOpen)
                        .reversed()
                        .thenComparing(one -> one.component().name()))
                .toList();
    }

    /** Each with its track, which is asked for of these alone. */
    private List<Row> rows(List<Standing> some, Facts facts) {
        var from = facts.now().minus(TRACK);
        var ids = some.stream().map(one -> one.component().id()).toList();
        var tracks = alerts.stretches(ids, from, facts.now().plusSeconds(1)).stream()
                .collect(Collectors.groupingBy(Alerts.Stretch::component));
        return some.stream()
                .map(one -> row(one, tracks.getOrDefault(one.component().id(), List.of()), facts))
                .toList();
    }

    /** All of them, each by its key, as the map shows them. */
    Map<String, OnMap> onMap() {
        var facts = facts();
        var all = new HashMap<String, OnMap>();
        for (var standing : standings(facts))
            all.put(
                    standing.component().key(),
                    new OnMap(
                            standing.component().name(),
                            mark(standing.severity()),
                            standing.severity() == null ? List.of() : troubles(standing, facts),
                            standing.day().carried(),
                            usualByNow(standing, facts)));
        return all;
    }

    /** @param usual by this time of the day; empty where it is not known */
    record OnMap(String name, String mark, List<String> troubles, long carried, String usual) {}

    Row of(Estate.Component one) {
        var facts = facts();
        return rows(List.of(standing(one, facts)), facts).getFirst();
    }

    private Facts facts() {
        var now = times.now();
        var ids = estate.interfaces().stream().map(Estate.Component::id).toList();
        var carried = today.carried();
        var days = carried.days();
        var quietToday = ids.stream()
                .filter(id -> !days.containsKey(id) || days.get(id).last() == null)
                .toList();
        return new Facts(
                now,
                today.midnight(),
                days,
                store.open(),
                carried.delays(),
                store.states(),
                usuals.all(),
                UsualTraffic.unknown(times.zone()),
                store.lastCarried(quietToday),
                alerts.sumsOn(ids));
    }

    /** What is right and wrong with one, before any words. */
    private record Standing(
            Estate.Component component,
            InterfaceStore.Day day,
            InterfaceStore.@Nullable Open open,
            UsualTraffic usual,
            Delays delays,
            double p95,
            @Nullable InterfaceState notRunning,
            @Nullable Instant silentSince,
            boolean late,
            @Nullable Severity severity) {
        long messagesOpen() {
            return open == null ? 0 : open.messages();
        }
    }

    private Standing standing(Estate.Component one, Facts facts) {
        long id = one.id();
        var day = facts.days().getOrDefault(id, InterfaceStore.Day.NOTHING);
        var open = facts.open().get(id);
        var usual = facts.usual().getOrDefault(id, facts.unknown());
        var delays = facts.delays().getOrDefault(id, Delays.none());
        double p95 = delays.quantile(0.95).orElse(Double.NaN);
        boolean late = usual.late(p95, delays.size());
        var last = day.last() != null ? day.last() : facts.lastCarried().get(id);
        boolean silent = last != null && usual.silent(last, facts.now());
        var state = facts.states().get(id);
        boolean runs = state == null || state.state() == InterfaceState.State.RUNNING;
        var up = facts.up().get(id);
        var worst = up == null ? null : up.worst();
        if (!runs)
            worst = worse(
                    worst,
                    state.state() == InterfaceState.State.FAILED_TO_DEPLOY ? Severity.CRITICAL : Severity.WARNING);
        if (open != null) worst = worse(worst, Severity.NOTICE);
        if (silent || late) worst = worse(worst, Severity.WARNING);
        return new Standing(one, day, open, usual, delays, p95, runs ? null : state, silent ? last : null, late, worst);
    }

    private List<String> troubles(Standing one, Facts facts) {
        var troubles = new ArrayList<String>();
        if (one.notRunning() != null) troubles.add(stateWords(one.notRunning()));
        if (one.open() != null)
            troubles.add("%,d open, the oldest from %s"
                    .formatted(one.open().messages(), times.of(one.open().oldest())));
        if (one.silentSince() != null)
            troubles.add("nothing carried since %s, about %,d were usual"
                    .formatted(
                            times.of(one.silentSince()),
                            Math.round(one.usual().expected(one.silentSince(), facts.now()))));
        if (one.late())
            troubles.add("late: 95 %% within %s, usually %s"
                    .formatted(seconds(one.p95()), seconds(one.usual().p95())));
        if (troubles.isEmpty() && one.severity() != null)
            troubles.add(alertWords(facts.up().get(one.component().id())));
        return troubles;
    }

    private static String usualByNow(Standing one, Facts facts) {
        return Double.isNaN(one.usual().byHour()[0])
                ? ""
                : Figures.grouped(Math.round(one.usual().expected(facts.midnight(), facts.now())));
    }

    private static String mark(@Nullable Severity severity) {
        return severity == null ? "steady" : severity.word();
    }

    private Row row(Standing standing, List<Alerts.Stretch> track, Facts facts) {
        var one = standing.component();
        var open = standing.open();
        return new Row(
                one,
                estate.applicationOf(one).map(Estate.Application::name).orElse("not assigned"),
                estate.ownerOf(one).map(Estate.Team::name).orElse(""),
                mark(standing.severity()),
                standing.severity(),
                troubles(standing, facts),
                standing.day().carried(),
                usualByNow(standing, facts),
                standing.day().failed(),
                standing.messagesOpen(),
                open == null ? "" : times.of(open.oldest()),
                Double.isNaN(standing.p95())
                        ? ""
                        : seconds(standing.delays().quantile(0.5).orElse(0)),
                Double.isNaN(standing.p95()) ? "" : seconds(standing.p95()),
                Double.isNaN(standing.usual().p95()) || standing.usual().p95() <= 0
                        ? ""
                        : seconds(standing.usual().p95()),
                standing.late(),
                ReliefTrack.of(
                        track.stream()
                                .map(it -> new ReliefTrack.Stretch(it.level(), it.from(), it.to()))
                                .toList(),
                        times.endOfMinute().minus(TRACK),
                        times.endOfMinute(),
                        TRACK_WIDTH));
    }

    /** What alerts of guards alone say: since when. */
    private String alertWords(Alerts.Up up) {
        return (up.count() == 1 ? "an alert is up since " : up.count() + " alerts are up, the first since ")
                + times.of(up.since());
    }

    String stateWords(InterfaceState state) {
        return state.state().words() + (state.version().isEmpty() ? "" : " " + state.version()) + " since "
                + times.of(state.at());
    }

    private static Severity worse(@Nullable Severity one, Severity other) {
        return one != null && one.worseThan(other) ? one : other;
    }

    /** {@code 340 ms}, {@code 1.2 s}, {@code 4.5 min}. */
    static String seconds(double seconds) {
        if (seconds < 1) return "%d ms".formatted(Math.round(seconds * 1000));
        if (seconds < 90) return String.format(Locale.ENGLISH, "%.1f s", seconds);
        return String.format(Locale.ENGLISH, "%.1f min", seconds / 60);
    }
}
