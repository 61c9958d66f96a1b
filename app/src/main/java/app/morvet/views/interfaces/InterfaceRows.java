package app.morvet.views.interfaces;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.alert.ReliefTrack;
import app.morvet.core.alert.Severity;
import app.morvet.core.messages.Delays;
import app.morvet.core.messages.InterfaceState;
import app.morvet.core.messages.UsualTraffic;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
     * @param delay    median and 95th percentile over the last hour or two; empty where nothing was delivered
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
            String delay,
            String usualDelay,
            boolean late,
            List<ReliefTrack.Rise> track) {
        public boolean needsEyes() {
            return severity != null;
        }
    }

    private final InterfaceStore store;
    private final Usuals usuals;
    private final Alerts alerts;
    private final Estate estate;
    private final Times times;

    InterfaceRows(InterfaceStore store, Usuals usuals, Alerts alerts, Estate estate, Times times) {
        this.store = store;
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
            Map<Long, Instant> lastCarried,
            Map<Long, List<Alerts.Stretch>> stretches) {}

    /** All interfaces: those that need eyes first, the worst on top. */
    List<Row> all() {
        var facts = facts();
        return estate.interfaces().stream()
                .map(one -> standing(one, facts))
                .sorted(Comparator.comparing((Row one) ->
                                one.severity() == null ? -1 : one.severity().ordinal())
                        .reversed()
                        .thenComparing(Comparator.comparing(Row::open).reversed())
                        .thenComparing(one -> one.component().name()))
                .toList();
    }

    Row of(Estate.Component one) {
        return standing(one, facts());
    }

    private Facts facts() {
        var now = times.now();
        var midnight = now.atZone(times.zone())
                .toLocalDate()
                .atStartOfDay(times.zone())
                .toInstant();
        var ids = estate.interfaces().stream().map(Estate.Component::id).toList();
        var stretches = new HashMap<Long, List<Alerts.Stretch>>();
        alerts.stretches(ids, now.minus(TRACK), now.plusSeconds(1)).forEach(one -> stretches
                .computeIfAbsent(one.component(), none -> new ArrayList<>())
                .add(one));
        var days = store.since(midnight);
        var quietToday = ids.stream()
                .filter(id -> !days.containsKey(id) || days.get(id).last() == null)
                .toList();
        return new Facts(
                now,
                midnight,
                days,
                store.open(),
                store.delaysSince(now.minus(Duration.ofMinutes(60)).truncatedTo(ChronoUnit.HOURS)),
                store.states(),
                usuals.all(),
                store.lastCarried(quietToday),
                stretches);
    }

    private Row standing(Estate.Component one, Facts facts) {
        long id = one.id();
        var day = facts.days().getOrDefault(id, new InterfaceStore.Day(0, 0, null));
        var open = facts.open().get(id);
        var usual = facts.usual().getOrDefault(id, UsualTraffic.unknown(times.zone()));
        var delays = facts.delays().getOrDefault(id, Delays.none());
        double p95 = delays.quantile(0.95).orElse(Double.NaN);
        boolean late = usual.late(p95, delays.size());
        var last = day.last() != null ? day.last() : facts.lastCarried().get(id);
        var troubles = new ArrayList<String>();
        Severity worst = facts.stretches().getOrDefault(id, List.of()).stream()
                .filter(it -> it.to() == null)
                .map(Alerts.Stretch::level)
                .max(Comparator.naturalOrder())
                .orElse(null);
        var state = facts.states().get(id);
        if (state != null && state.state() != InterfaceState.State.RUNNING) {
            boolean failed = state.state() == InterfaceState.State.FAILED_TO_DEPLOY;
            worst = worse(worst, failed ? Severity.CRITICAL : Severity.WARNING);
            troubles.add(stateWords(state));
        }
        if (open != null) {
            worst = worse(worst, Severity.NOTICE);
            troubles.add("%,d open, the oldest from %s".formatted(open.messages(), times.of(open.oldest())));
        }
        if (last != null && usual.silent(last, facts.now())) {
            worst = worse(worst, Severity.WARNING);
            troubles.add("nothing carried since %s, about %,d were usual"
                    .formatted(times.of(last), Math.round(usual.expected(last, facts.now()))));
        }
        if (late) {
            worst = worse(worst, Severity.WARNING);
            troubles.add("late: 95 %% within %s, usually %s".formatted(seconds(p95), seconds(usual.p95())));
        }
        if (troubles.isEmpty() && worst != null)
            troubles.add(alertWords(facts.stretches().get(id)));
        double expected = usual.expected(facts.midnight(), facts.now());
        return new Row(
                one,
                estate.applicationOf(one).map(Estate.Application::name).orElse("not assigned"),
                estate.ownerOf(one).map(Estate.Team::name).orElse(""),
                worst == null ? "steady" : worst.word(),
                worst,
                troubles,
                day.delivered() + day.failed(),
                Double.isNaN(usual.byHour()[0]) ? "" : "%,d".formatted(Math.round(expected)),
                day.failed(),
                open == null ? 0 : open.messages(),
                open == null ? "" : times.of(open.oldest()),
                Double.isNaN(p95) ? "" : seconds(delays.quantile(0.5).orElse(0)) + " · " + seconds(p95),
                Double.isNaN(usual.p95()) || usual.p95() <= 0 ? "" : seconds(usual.p95()),
                late,
                ReliefTrack.of(
                        facts.stretches().getOrDefault(id, List.of()).stream()
                                .map(it -> new ReliefTrack.Stretch(it.level(), it.from(), it.to()))
                                .toList(),
                        facts.now().minus(TRACK),
                        facts.now(),
                        TRACK_WIDTH));
    }

    /** What alerts of guards alone say: since when. */
    private String alertWords(List<Alerts.Stretch> stretches) {
        var up = stretches.stream().filter(one -> one.to() == null).toList();
        var since = up.stream()
                .map(Alerts.Stretch::from)
                .min(Comparator.naturalOrder())
                .orElseThrow();
        return (up.size() == 1 ? "an alert is up since " : up.size() + " alerts are up, the first since ")
                + times.of(since);
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
