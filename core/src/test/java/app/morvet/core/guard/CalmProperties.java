package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.statistics.Statistics;

/** A glance says what the walk from instant to instant says, or nothing. */
class CalmProperties {
    private static final Instant START = Instant.parse("2026-11-23T10:00:00Z");
    private static final Duration WINDOW = Duration.ofMinutes(15);

    /**
     * @param value  in tenths
     * @param gap    seconds after the reading before
     * @param late   for so many seconds it was under way
     * @param looked whether the guard is judged when it has come
     */
    record Told(int value, int gap, int late, boolean looked) {}

    @Provide
    Arbitrary<LimitGuard> guards() {
        var amounts = Arbitraries.oneOf(
                Arbitraries.of(Amount.Fold.LAST, Amount.Fold.MEAN, Amount.Fold.MIN, Amount.Fold.MAX, Amount.Fold.SUM)
                        .map(Amount::of),
                Arbitraries.of(0.5, 0.95).map(Amount::percentile));
        var limits = Arbitraries.of(Limits.above(8, 9), Limits.above(20, 30), Limits.below(1, 0), Limits.below(-4, -9));
        var noData = Arbitraries.of(NoData.NOTHING, new NoData(Duration.ofMinutes(4), NoData.Meaning.WARNING));
        return Combinators.combine(amounts, limits, noData)
                .as((amount, limit, silence) -> new LimitGuard(
                        new Window.Sliding(WINDOW),
                        amount,
                        limit,
                        new Terms(
                                new Clearing(0.85, Duration.ofMinutes(5)),
                                silence,
                                Grouping.EACH_SUBJECT,
                                null,
                                null)));
    }

    @Provide
    Arbitrary<List<Told>> told() {
        // Mostly once a minute; now and then a pause over which a window runs empty, or silence means something.
        var gaps = Arbitraries.frequencyOf(
                net.jqwik.api.Tuple.of(30, Arbitraries.integers().between(20, 90)),
                net.jqwik.api.Tuple.of(1, Arbitraries.of(240, 900, 901, 2000)));
        var late = Arbitraries.frequencyOf(
                net.jqwik.api.Tuple.of(20, Arbitraries.just(0)),
                net.jqwik.api.Tuple.of(1, Arbitraries.of(45, 300, 900, 1300)));
        return Combinators.combine(
                        Arbitraries.integers().between(0, 100), gaps, late, Arbitraries.of(true, true, false))
                .as(Told::new)
                .list()
                .ofMinSize(2)
                .ofMaxSize(80);
    }

    @Property(tries = 300)
    void aGlanceSaysWhatTheWalkSays(@ForAll("guards") LimitGuard guard, @ForAll("told") List<Told> told) {
        var ring = new ReadingRing();
        var now = START;
        var state = GuardState.startingAt(now);
        for (var one : told) {
            now = now.plusSeconds(one.gap());
            ring.add(now.minusSeconds(one.late()), one.value() / 10.0);
            if (!one.looked()) continue;
            var heard = heard(ring);
            var course = Measuring.course(guard, heard, state.evaluatedTo(), now);
            var walked = GuardEvaluator.judge(guard, state, course, now);
            var glanced = GuardEvaluator.glance(guard, state, ring, Sort.GAUGE, now);
            Statistics.label("a glance was enough").collect(glanced != null);
            if (glanced != null) assertThat(glanced).isEqualTo(walked);
            state = walked.state();
        }
    }

    @Example
    void ofACalmSeriesAGlanceIsEnough() {
        var guard = new LimitGuard(
                new Window.Sliding(WINDOW),
                Amount.of(Amount.Fold.MEAN),
                Limits.above(8, 9),
                Terms.clearing(0.85, Duration.ofMinutes(5)));
        var ring = new ReadingRing();
        for (int minute = 0; minute <= 15; minute++) ring.add(START.plus(Duration.ofMinutes(minute)), 0.1 * minute);
        var state = GuardEvaluator.step(
                        guard, GuardState.startingAt(START), heard(ring), START.plus(Duration.ofMinutes(15)))
                .state();
        var later = START.plus(Duration.ofMinutes(16));
        ring.add(later, 7.9);

        var glanced = GuardEvaluator.glance(guard, state, ring, Sort.GAUGE, later);
        assertThat(glanced).isNotNull();
        assertThat(glanced.state().value())
                .isEqualTo((0.1 * 119 + 7.9) / 15, org.assertj.core.data.Offset.offset(1e-12));
        ring.add(later.plusSeconds(1), 8.0);
        assertThat(GuardEvaluator.glance(guard, state, ring, Sort.GAUGE, later.plusSeconds(1)))
                .isNull();
    }

    private static Heard heard(ReadingRing ring) {
        return Heard.of(ring.since(Micros.of(START.minus(Duration.ofHours(1)))), Sort.GAUGE, Duration.ofMinutes(1));
    }
}
