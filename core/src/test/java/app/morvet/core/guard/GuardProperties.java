package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.TreeSet;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;
import org.jspecify.annotations.Nullable;

/**
 * What must hold for guards of every kind and any readings. Times are whole seconds over two days, and their midnight; on
 * some of them the clock is put forward or back.
 */
class GuardProperties {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Duration LENGTH = Duration.ofHours(40);
    private static final List<Instant> STARTS = List.of(
            Instant.parse("2026-11-23T10:00:00Z"),
            Instant.parse("2026-03-28T10:00:00Z"),
            Instant.parse("2026-10-24T10:00:00Z"));
    private static final Duration CADENCE = Duration.ofMinutes(10);

    private static final StateWords WORDS = new StateWords(List.of("a", "b", "c", "d", "e", "f", "g", "h", "i", "j"));

    record Timed(int second, int value) {}

    record Case(Instant start, Guard guard, Sort sort, List<Timed> readings, List<Integer> cuts) {
        Instant end() {
            return start.plus(LENGTH);
        }

        Readings heard() {
            var ring = new ReadingRing();
            readings.forEach(one -> ring.add(start.plusSeconds(one.second()), one.value()));
            return ring.all();
        }
    }

    @Provide
    Arbitrary<Case> cases() {
        var readings = Combinators.combine(
                        Arbitraries.integers().between(1, (int) LENGTH.toSeconds()),
                        Arbitraries.integers().between(0, 9))
                .as(Timed::new)
                .list()
                .ofMaxSize(60)
                .uniqueElements(Timed::second);
        var cuts = Arbitraries.integers()
                .between(1, (int) LENGTH.toSeconds())
                .list()
                .ofMaxSize(25);
        return Combinators.combine(Arbitraries.of(STARTS), guards(), Arbitraries.of(Sort.class), readings, cuts)
                .as(Case::new);
    }

    private static Arbitrary<Guard> guards() {
        Arbitrary<Window> windows = Arbitraries.oneOf(
                Arbitraries.just(new Window.SinceMidnight(ZONE)),
                Arbitraries.integers().between(1, 600).map(minutes -> new Window.Sliding(Duration.ofMinutes(minutes))));
        var amounts = Arbitraries.oneOf(
                Arbitraries.of(Amount.Fold.class)
                        .filter(fold -> fold != Amount.Fold.PERCENTILE && fold != Amount.Fold.EACH)
                        .map(Amount::of),
                Arbitraries.of(0.1, 0.5, 0.9).map(Amount::percentile),
                Arbitraries.of(0.0, 0.3, 0.8, 1.0).map(Amount::each),
                Arbitraries.just(Amount.of(Amount.Fold.MEAN).least(3)),
                Arbitraries.just(Amount.of(Amount.Fold.LAST).shareOf(new Amount.Ceiling.Fixed(20))));
        var limit = Combinators.combine(windows, amounts, limits(), terms()).as(LimitGuard::new);
        var silence = Combinators.combine(
                        Arbitraries.integers().between(0, 4),
                        Arbitraries.integers().between(1, 9),
                        terms())
                .as((warning, more, terms) -> new SilenceGuard(Limits.above(warning, warning + more), terms));
        var trend = Combinators.combine(
                        Arbitraries.integers().between(4, 12), Arbitraries.of(Side.ABOVE, Side.BELOW), terms())
                .as((target, side, terms) ->
                        new TrendGuard(target, side, Duration.ofHours(6), false, ZONE, Limits.below(20, 5), terms));
        var band = Combinators.combine(
                        Arbitraries.integers().between(5, 300),
                        Arbitraries.of(0.2, 0.7, 1.0),
                        Arbitraries.of(Side.ABOVE, Side.BELOW, Side.OUTSIDE),
                        terms())
                .as((minutes, share, side, terms) ->
                        new BandGuard(Duration.ofMinutes(minutes), share, side, 2, ZONE, Limits.above(1, 2.5), terms));
        var state = Combinators.combine(
                        conditions().injectNull(0.3), conditions().injectNull(0.3), conditions(), terms())
                .as((warning, critical, otherwise, terms) ->
                        new StateGuard(warning == null && critical == null ? otherwise : warning, critical, terms));
        return Arbitraries.oneOf(limit, limit, silence, trend, band, state).map(guard -> guard);
    }

    private static Arbitrary<StateGuard.Condition> conditions() {
        return Combinators.combine(
                        Arbitraries.of(StateGuard.Manner.class),
                        Arbitraries.of(WORDS.all()).set().ofMinSize(1).ofMaxSize(5),
                        Arbitraries.integers().between(0, 300))
                .as((manner, words, minutes) -> new StateGuard.Condition(
                        manner,
                        List.copyOf(new TreeSet<>(words)),
                        Duration.ofMinutes(manner == StateGuard.Manner.IN ? minutes : minutes + 1L)));
    }

    private static Arbitrary<Limits> limits() {
        return Combinators.combine(
                        Arbitraries.of(Side.class),
                        Arbitraries.integers().between(0, 5),
                        Arbitraries.integers().between(1, 5))
                .as((side, warning, more) -> switch (side) {
                    case ABOVE -> Limits.above(warning, warning + more);
                    case BELOW -> Limits.below(warning, warning - more);
                    case OUTSIDE ->
                        new Limits(
                                Limit.outside(warning, warning + more), Limit.outside(warning - 1, warning + more + 1));
                    case EQUAL -> new Limits(Limit.of(side, warning), null);
                });
    }

    @Provide
    static Arbitrary<Hours> hours() {
        return Combinators.combine(
                        Arbitraries.of(
                                EnumSet.of(DayOfWeek.MONDAY, DayOfWeek.TUESDAY, DayOfWeek.SUNDAY),
                                EnumSet.allOf(DayOfWeek.class)),
                        Arbitraries.of("20:00-09:30", "03:30-05:00", "03:10-03:50", "23:00-03:30", "03:30-03:30"))
                .as((days, span) -> new Hours(
                        days, LocalTime.parse(span.substring(0, 5)), LocalTime.parse(span.substring(6)), ZONE));
    }

    private static Arbitrary<Terms> terms() {
        return Combinators.combine(
                        Arbitraries.of(0.3, 0.5, 0.9, 1.0),
                        Arbitraries.integers().between(0, 90),
                        Arbitraries.of(NoData.Meaning.class),
                        Arbitraries.integers().between(1, 400),
                        hours().injectNull(0.6),
                        Arbitraries.integers().between(1, 4))
                .as((margin, calm, meaning, silent, within, times) -> new Terms(
                        new Clearing(margin, Duration.ofMinutes(calm)),
                        new NoData(Duration.ofMinutes(silent), meaning),
                        Grouping.EACH_SUBJECT,
                        within,
                        times == 1 ? null : new Damping(times, Duration.ofHours(8))));
    }

    /** Two weeks of a made rhythm before the start, and the case's readings after it. */
    private static Heard heard(Case given, Readings readings) {
        // A state stands for longer than others are promised, or it would be hardly ever known.
        boolean state = given.guard() instanceof StateGuard;
        return new Heard(
                readings,
                Readings.NONE,
                GuardProperties::past,
                given.sort(),
                state ? CADENCE.multipliedBy(20) : CADENCE,
                Seer.FRESH,
                WORDS);
    }

    private static Readings past(Instant from, Instant to) {
        var ring = new ReadingRing();
        long first = Math.floorDiv(from.getEpochSecond() + 599, 600);
        for (long ten = first; ten * 600 < to.getEpochSecond(); ten++)
            ring.add(Instant.ofEpochSecond(ten * 600), ten % 7 + (double) ten % 1000 / 100);
        return ring.all();
    }

    @Property(tries = 200)
    void liveAndReplayGiveTheSameTransitionsHoweverTheReadingsAreCut(@ForAll("cases") Case given) {
        var whole = GuardEvaluator.step(
                given.guard(), GuardState.startingAt(given.start()), heard(given, given.heard()), given.end());

        // Live: the readings come in order, a batch at a time, and nothing but the small state and the recent readings
        // are kept between batches, as after a restart.
        var state = GuardState.startingAt(given.start());
        var told = new ArrayList<Transition>();
        var untils = new TreeSet<Instant>();
        given.cuts().forEach(cut -> untils.add(given.start().plusSeconds(cut)));
        untils.add(given.end());
        var ring = new ReadingRing();
        var left = new ArrayList<>(given.readings());
        for (var until : untils) {
            for (var one : List.copyOf(left)) {
                if (given.start().plusSeconds(one.second()).isAfter(until)) continue;
                ring.add(given.start().plusSeconds(one.second()), one.value());
                left.remove(one);
            }
            var step = GuardEvaluator.step(given.guard(), state, heard(given, ring.all()), until);
            told.addAll(step.transitions());
            state = step.state();
            ring.forget(until, given.guard().reach());
        }

        assertThat(told).isEqualTo(whole.transitions());
        assertThat(state).isEqualTo(whole.state());
    }

    @Property(tries = 200)
    void transitionsAlternateSensibly(@ForAll("cases") Case given) {
        @Nullable Severity level = null;
        for (var transition : GuardEvaluator.step(
                        given.guard(), GuardState.startingAt(given.start()), heard(given, given.heard()), given.end())
                .transitions()) {
            var next = transition.level();
            switch (transition.kind()) {
                case RAISED -> assertThat(level).isNull();
                case ROSE -> assertThat(next).isNotNull().isGreaterThan(level);
                case EASED -> assertThat(next).isNotNull().isLessThan(level);
                case FLAPS -> assertThat(next).isEqualTo(level);
                case CLEARED -> assertThat(level).isNotNull();
            }
            level = next;
        }
    }

    @Property(tries = 200)
    void aReplayTellsTheAlertsThatTheEvaluatorRaises(@ForAll("cases") Case given) {
        var heard = heard(given, given.heard());
        var step = GuardEvaluator.step(given.guard(), GuardState.startingAt(given.start()), heard, given.end());
        var course = Measuring.course(given.guard(), heard, given.start(), given.end());
        var outcome = Replay.of(given.guard(), List.of(new Replay.Run(1, "one", course)), given.start(), given.end());
        assertThat(outcome.alerts())
                .extracting(Replay.Alert::start)
                .isEqualTo(step.transitions().stream()
                        .filter(one -> one.kind() == Transition.Kind.RAISED)
                        .map(Transition::at)
                        .toList());
        assertThat(outcome.alerts().stream().filter(one -> one.end() != null).map(Replay.Alert::end))
                .isEqualTo(step.transitions().stream()
                        .filter(one -> one.kind() == Transition.Kind.CLEARED)
                        .map(Transition::at)
                        .toList());
    }

    @Property(tries = 200)
    void aWindowsAmountIsWhatLookingAtEveryReadingGives(@ForAll("cases") Case given) {
        if (!(given.guard() instanceof LimitGuard guard) || guard.amount().ceiling() != null) return;
        var course = Measuring.course(guard, heard(given, given.heard()), given.start(), given.end());
        for (int i = 0; i < course.size(); i++) {
            if (i > 0) assertThat(course.at(i)).isAfter(course.at(i - 1));
            same(course.value(i), amount(given, guard, course.at(i)));
        }
        // Between its points it stays what it was at the one before.
        for (var at = given.start(); !at.isAfter(given.end()); at = at.plusSeconds(331))
            same(course.valueAt(at), amount(given, guard, at));
    }

    private static void same(double value, double expected) {
        if (!Double.isNaN(expected)) assertThat(value).isCloseTo(expected, org.assertj.core.data.Offset.offset(1e-9));
    }

    /** NaN where there are too few, and of folds that look at more than what lies in the window. */
    private static double amount(Case given, LimitGuard guard, Instant at) {
        var inside = given.readings().stream()
                .filter(one -> inside(guard.window(), given.start().plusSeconds(one.second()), at))
                .mapToDouble(Timed::value)
                .sorted()
                .toArray();
        if (inside.length < guard.amount().least() || inside.length == 0) return Double.NaN;
        return switch (guard.amount().fold()) {
            case MIN -> inside[0];
            case MAX -> inside[inside.length - 1];
            case SUM -> java.util.Arrays.stream(inside).sum();
            case MEAN -> java.util.Arrays.stream(inside).average().orElseThrow();
            case COUNT -> inside.length;
            default -> Double.NaN;
        };
    }

    /** At any instant, by looking back over every second of what was told, as one would on paper. */
    @Property(tries = 200)
    void whatAStateGuardSaysIsWhatLookingBackGives(
            @ForAll("cases") Case given, @ForAll @IntRange(min = 1, max = 144_000) int second) {
        if (!(given.guard() instanceof StateGuard guard) || guard.terms().hours() != null) return;
        if (guard.terms().noData().meaning() != NoData.Meaning.NOTHING) return;
        var readings = given.heard();
        var course = Measuring.course(guard, heard(given, readings), given.start(), given.end());
        var at = given.start().plusSeconds(second);
        int point = 0;
        while (point + 1 < course.size() && !course.at(point + 1).isAfter(at)) point++;
        int last = readings.firstAfter(Micros.of(at)) - 1;
        boolean known = last >= 0
                && Duration.between(Micros.instant(readings.times()[last]), at).compareTo(CADENCE.multipliedBy(30)) < 0;
        assertThat(course.known(point) == Course.Known.YES).isEqualTo(known);
        if (!known) return;
        assertThat(course.breached(point))
                .isEqualTo(
                        holds(guard.critical(), readings, last, at)
                                ? 2
                                : holds(guard.warning(), readings, last, at) ? 1 : 0);
        assertThat(StateGuard.word(course.value(point), WORDS)).isEqualTo(WORDS.word(readings.values()[last]));
    }

    private static boolean holds(StateGuard.@Nullable Condition of, Readings readings, int last, Instant at) {
        if (of == null) return false;
        if (of.manner() == StateGuard.Manner.IN) {
            int first = last;
            while (first >= 0 && of.words().contains(WORDS.word(readings.values()[first]))) first--;
            return first < last
                    && !Micros.instant(readings.times()[first + 1])
                            .plus(of.span())
                            .isAfter(at);
        }
        for (int i = last; i > 0; i--) {
            if (!Micros.instant(readings.times()[i]).plus(of.span()).isAfter(at)) return false;
            boolean was = of.words().contains(WORDS.word(readings.values()[i - 1]));
            boolean is = of.words().contains(WORDS.word(readings.values()[i]));
            if (of.manner() == StateGuard.Manner.CAME ? is && !was : was && !is) return true;
        }
        return false;
    }

    /** Between two edges nothing changes, at whatever minute one looks; so an edge is told wherever it begins or ends. */
    @Property(tries = 100)
    void hoursChangeAtTheirEdgesAndNowhereElse(@ForAll("hours") Hours hours, @ForAll("starts") Instant start) {
        var edges = new TreeSet<Long>();
        hours.eachEdge(Micros.of(start), Micros.of(start.plus(LENGTH)), edges::add);
        boolean applies = hours.apply(start);
        for (var at = start; !at.isAfter(start.plus(LENGTH)); at = at.plusSeconds(60)) {
            if (hours.apply(at) != applies) assertThat(edges).contains(Micros.of(at));
            applies = hours.apply(at);
        }
    }

    @Provide
    Arbitrary<Instant> starts() {
        return Arbitraries.of(STARTS);
    }

    private static boolean inside(Window window, Instant time, Instant at) {
        if (time.isAfter(at)) return false;
        return switch (window) {
            case Window.Sliding(var length) -> Duration.between(time, at).compareTo(length) < 0;
            case Window.SinceMidnight(var zone) ->
                time.atZone(zone).toLocalDate().equals(at.atZone(zone).toLocalDate());
        };
    }
}
