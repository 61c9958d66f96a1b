package app.morvet.views.services;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Spans;
import app.morvet.core.states.StateTrack;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.rules.guards.StateGuards;
import app.morvet.sources.changes.Changes;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Every state there is: what is in it, since when, how bad that is by its guards, and what it was in before. */
@Service
class ServiceRows {
    static final Duration TRACK = Duration.ofHours(24);
    private static final int TRACK_WIDTH = 190;

    /** What changed within that time needs eyes, though it be good now. */
    private static final Duration JUST_CHANGED = Duration.ofMinutes(30);

    /** Of more, those that are as they should be fold into a line. */
    private static final int MOST_SHOWN = 40;

    /** Where a whole collector is silent thousands need eyes; so many of them are shown, the worst first. */
    private static final int MOST_EYES = 60;

    private static final String NOT_KNOWN = "not known";

    /** @param mark relief mark, or {@code neutral} where no guard judges it */
    record Piece(String word, String mark, double x, double width) {}

    /**
     * One state of one component.
     *
     * @param of    the measure and labels that tell it from others of its component; empty where it has one only
     * @param mark  how bad it is now
     * @param why   what is to be looked at beside the word; may be empty
     * @param since when it came into its word, or was last heard
     */
    record Row(
            String key,
            String name,
            String of,
            String kind,
            String application,
            int tier,
            String host,
            String hostKey,
            String word,
            String mark,
            String why,
            String since,
            String lasts,
            boolean needsEyes,
            List<Piece> track) {}

    /** Those of one application that are as they should be, in a line. */
    record Quiet(String application, int count, String words, List<Row> rows) {}

    private final SeriesBook series;
    private final States states;
    private final StateGuards guards;
    private final Estate estate;
    private final Times times;

    ServiceRows(SeriesBook series, States states, StateGuards guards, Estate estate, Times times) {
        this.series = series;
        this.states = states;
        this.guards = guards;
        this.estate = estate;
        this.times = times;
    }

    /** What of it stands how, before any words or tracks. */
    private record Standing(
            Series one,
            Estate.Component component,
            States.Now now,
            String word,
            StateGuards.Marks marks,
            @Nullable Severity severity,
            boolean silent,
            boolean changed) {
        boolean needsEyes() {
            return severity != null || silent || changed;
        }

        /** The worst first: critical, warning, not known, changed just now. */
        int order() {
            if (severity == Severity.CRITICAL) return 0;
            if (severity == Severity.WARNING) return 1;
            return silent ? 2 : changed ? 3 : 4;
        }
    }

    /**
     * @param eyes   those that need eyes, the worst first; the others by application
     * @param more   how many more need eyes than are shown
     * @param folded whether the others are told in a line and not shown
     */
    record Overview(List<Row> eyes, int more, List<Quiet> quiet, int all, boolean folded) {}

    /**
     * @param words    of which each must stand in what a row says; empty for all
     * @param unfolded whether those that are as they should be are shown, however many there are
     */
    Overview overview(String words, boolean unfolded) {
        var found = standings().stream().filter(one -> fits(one, words)).toList();
        var eyes = found.stream()
                .filter(Standing::needsEyes)
                .sorted(Comparator.comparingInt(Standing::order)
                        .thenComparingInt(one -> tier(one.component()))
                        .thenComparing(one -> one.component().name()))
                .toList();
        var byApplication = new TreeMap<String, List<Standing>>();
        found.stream().filter(one -> !one.needsEyes()).forEach(one -> byApplication
                .computeIfAbsent(application(one.component()), none -> new ArrayList<>())
                .add(one));
        boolean folded = !unfolded && found.size() - eyes.size() > MOST_SHOWN;
        var quiet = new ArrayList<Quiet>();
        byApplication.forEach((application, some) ->
                quiet.add(new Quiet(application, some.size(), tally(some), folded ? List.of() : rows(some))));
        int shown = Math.min(eyes.size(), MOST_EYES);
        return new Overview(rows(eyes.subList(0, shown)), eyes.size() - shown, quiet, found.size(), folded);
    }

    /** All of them as a list, for a file. */
    List<Row> list(String words) {
        return rows(standings().stream().filter(one -> fits(one, words)).toList());
    }

    /** Of one component: what needs eyes first, where it is in several states; empty where it has told of none. */
    Optional<Row> of(List<Series> itsStates) {
        return rows(standings(itsStates).stream()
                        .sorted(Comparator.comparingInt(Standing::order))
                        .limit(1)
                        .toList())
                .stream()
                .findFirst();
    }

    private List<Standing> standings() {
        var all = new ArrayList<Series>();
        for (var measure : series.measures()) if (measure.isState()) all.addAll(series.ofMeasure(measure.name()));
        return standings(all);
    }

    private List<Standing> standings(List<Series> some) {
        var now = states.of(some.stream().map(Series::id).toList());
        var marks = guards.over(some);
        var cadences = cadences();
        var at = times.now();
        return some.stream()
                .filter(one -> now.containsKey(one.id()))
                .map(one -> standing(one, now.get(one.id()), marks.get(one.id()), cadences, at))
                // That something runs the version of its like is no news; that it does not is.
                .filter(one -> !one.one().measure().name().equals(Changes.VERSION) || one.severity() != null)
                .sorted(Comparator.comparing(one -> one.component().name()))
                .toList();
    }

    private Standing standing(
            Series one, States.Now now, StateGuards.Marks marks, Map<Long, Duration> cadences, Instant at) {
        var word = one.measure().stateWords().word(now.place());
        boolean silent = knownTo(one, now, cadences).isBefore(at);
        return new Standing(
                one,
                estate.component(one.component()),
                now,
                word,
                marks,
                marks.of(word).orElse(null),
                silent,
                now.became() && now.since().plus(JUST_CHANGED).isAfter(at));
    }

    /** How often each feed promised to be heard. */
    Map<Long, Duration> cadences() {
        var cadences = new HashMap<Long, Duration>();
        estate.feeds().forEach(feed -> cadences.put(feed.id(), feed.cadence()));
        return cadences;
    }

    /** Until when the word that was heard last is known to stand: half a cadence beyond the next that was promised. */
    static Instant knownTo(Series one, States.Now now, Map<Long, Duration> cadences) {
        if (one.toldOnChange()) return Instant.MAX;
        var usual =
                one.feed() == null ? Duration.ofMinutes(1) : cadences.getOrDefault(one.feed(), Duration.ofMinutes(1));
        var cadence = one.promised() == null ? usual : one.promised();
        return now.heardAt().plus(SilenceGuard.missedAfter(cadence));
    }

    private List<Row> rows(List<Standing> some) {
        var to = times.endOfMinute();
        var from = to.minus(TRACK);
        var changes = states.changes(some.stream().map(one -> one.one().id()).toList(), from, to);
        var cadences = cadences();
        return some.stream()
                .map(one -> row(one, changes.getOrDefault(one.one().id(), List.of()), from, to, cadences))
                .toList();
    }

    private Row row(Standing one, List<States.Change> changes, Instant from, Instant to, Map<Long, Duration> cadences) {
        var component = one.component();
        var now = times.now();
        var knownTo = knownTo(one.one(), one.now(), cadences);
        var on = component.standsOn() == null ? null : estate.component(component.standsOn());
        var since = one.silent() ? one.now().heardAt() : one.now().since();
        return new Row(
                component.key(),
                component.name(),
                of(one.one()),
                component.kind(),
                application(one.component()),
                tier(one.component()),
                on == null ? "" : on.name(),
                on == null ? "" : on.key(),
                one.silent() ? NOT_KNOWN : one.word(),
                one.silent()
                        ? "nodata"
                        : one.severity() == null ? "steady" : one.severity().word(),
                why(one),
                times.of(since),
                lasted(Duration.between(since, now)),
                one.needsEyes(),
                pieces(one.one(), changes, one.marks(), from, to, knownTo.isAfter(now) ? Instant.MAX : knownTo));
    }

    private static String why(Standing one) {
        if (one.silent()) return "was " + one.word() + " when it was last heard";
        return one.severity() == null && one.changed() ? "changed just now" : "";
    }

    static String lasted(Duration span) {
        if (span.isNegative()) return Spans.words(Duration.ZERO);
        return Spans.words(
                span.toHours() >= 1 ? Duration.ofMinutes(span.toMinutes()) : Duration.ofSeconds(span.toSeconds()));
    }

    static List<StateTrack.Stretch> stretches(
            Series one, List<States.Change> changes, Instant from, Instant to, Instant knownTo) {
        var words = one.measure().stateWords();
        return StateTrack.of(
                changes.stream()
                        .map(it -> new StateTrack.Change(it.at(), words.word(it.place())))
                        .toList(),
                from,
                to,
                knownTo);
    }

    private static List<Piece> pieces(
            Series one,
            List<States.Change> changes,
            StateGuards.Marks marks,
            Instant from,
            Instant to,
            Instant knownTo) {
        return StateTrack.pieces(stretches(one, changes, from, to, knownTo), TRACK_WIDTH).stream()
                .map(it -> new Piece(
                        it.word() == null ? NOT_KNOWN : it.word(), mark(it.word(), marks), it.x(), it.width()))
                .toList();
    }

    static String mark(@Nullable String word, StateGuards.Marks marks) {
        if (word == null) return "nodata";
        if (!marks.judged()) return "neutral";
        return marks.of(word).map(Severity::word).orElse("steady");
    }

    /** {@code 3 running}, {@code 2 running, 1 passed}. */
    private static String tally(List<Standing> some) {
        var counts = new TreeMap<String, Integer>();
        some.forEach(one -> counts.merge(one.word(), 1, Integer::sum));
        return String.join(
                ", ",
                counts.entrySet().stream()
                        .map(one -> one.getValue() + " " + one.getKey())
                        .toList());
    }

    private boolean fits(Standing one, String words) {
        if (words.isBlank()) return true;
        var component = one.component();
        var on = component.standsOn() == null
                ? ""
                : estate.component(component.standsOn()).name();
        var all = String.join(
                        " ",
                        component.name(),
                        component.key(),
                        component.kind(),
                        application(one.component()),
                        on,
                        one.silent() ? NOT_KNOWN : one.word())
                .toLowerCase(Locale.ROOT);
        for (var word : words.toLowerCase(Locale.ROOT).strip().split("\\s+")) if (!all.contains(word)) return false;
        return true;
    }

    private String application(Estate.Component one) {
        return estate.applicationOf(one).map(Estate.Application::name).orElse("not assigned");
    }

    private int tier(Estate.Component one) {
        return estate.applicationOf(one).map(it -> it.tier().number()).orElse(9);
    }

    /** A component with one state alone needs no more words. */
    private String of(Series one) {
        long states = series.ofComponent(one.component()).stream()
                .map(Series::measure)
                .filter(Measure::isState)
                .count();
        return states < 2 ? "" : (one.measure().words() + " " + one.labelWords()).strip();
    }
}
