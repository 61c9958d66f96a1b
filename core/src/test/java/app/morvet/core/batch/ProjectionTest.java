package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** Nights played through, against what can be worked out exactly. */
class ProjectionTest {
    private static final int NIGHTS = 40_000;

    private static Projection.Task task(String key, double ready, Spread spread, double due, Integer... waits) {
        return new Projection.Task(key, ready, List.of(waits), spread, -1, -1, due, 0);
    }

    private static double makes(List<Projection.Task> tasks, int of) {
        return Projection.of(tasks, List.of(), NIGHTS, 7).outlook(of).makes();
    }

    @Test
    void oneUniformJobMakesItsDeadlineAsOftenAsItsShare() {
        assertThat(makes(List.of(task("a", 10, Spread.between(0, 100), 60)), 0)).isCloseTo(0.5, within(0.01));
    }

    /** The sum of two uniform lengths: P(X + Y ≤ t) = t² / 2 for t ≤ 1 (Irwin–Hall), with one hundred as the unit. */
    @Test
    void twoInARowAreTheSumOfTwoUniforms() {
        var unit = Spread.between(0, 100);
        for (int t : new int[] {40, 80, 100})
            assertThat(makes(List.of(task("a", 0, unit, Double.NaN), task("b", 0, unit, t, 0)), 1))
                    .isCloseTo(t / 100.0 * t / 100.0 / 2, within(0.01));
    }

    /** The later of two uniform lengths: P(max ≤ t) = t². */
    @Test
    void oneAfterBothOfTwoWaitsForTheLater() {
        var unit = Spread.between(0, 100);
        var tasks = List.of(
                task("a", 0, unit, Double.NaN),
                task("b", 0, unit, Double.NaN),
                task("c", 0, Spread.exactly(5), 75, 0, 1));
        assertThat(makes(tasks, 2)).isCloseTo(0.49, within(0.01));
    }

    /** With one slot the two run one after the other: the sum instead of the later. */
    @Test
    void oneSlotMakesOneOfThemWait() {
        var unit = Spread.between(0, 100);
        var tasks = List.of(task("a", 0, unit, Double.NaN), task("b", 0, unit, 80));
        assertThat(Projection.of(tasks, List.of(1), NIGHTS, 7).outlook(1).makes())
                .isCloseTo(0.32, within(0.01));
        assertThat(Projection.of(tasks, List.of(2), NIGHTS, 7).outlook(1).makes())
                .isCloseTo(0.8, within(0.01));
    }

    /** A run that has lasted 60 of at most 100 lasts, of what is left, anything as likely: P(≤ 80) = 1/2. */
    @Test
    void aRunningJobIsDrawnGivenWhatHasPassed() {
        var running = new Projection.Task("a", 0, List.of(), Spread.between(0, 100), 60, -1, 20, -1);
        assertThat(makes(List.of(running), 0)).isCloseTo(0.5, within(0.01));
    }

    /** Beyond all that was seen it goes on as an exponential: P(≤ m) = 1 − 1/e for its mean m, here half of 200 − 50. */
    @Test
    void aRunBeyondAllThatWasSeenGoesOnAsAnExponential() {
        var running = new Projection.Task("a", 0, List.of(), Spread.between(0, 100), 200, -1, 75, -1);
        assertThat(makes(List.of(running), 0)).isCloseTo(1 - 1 / Math.E, within(0.01));
    }

    /** At a quarter of the way after 100 s, a job with fixed lengths needs 300 s more, whatever is usual. */
    @Test
    void aJobThatSaysHowFarItIsGoesAtItsOwnPace() {
        var running = new Projection.Task("a", 0, List.of(), Spread.exactly(120), 100, 0.25, Double.NaN, -1);
        var end = Projection.of(List.of(running), List.of(), 10, 7).outlook(0).end();
        assertThat(end.likely()).isCloseTo(300, within(0.1));
    }

    @Test
    void thePathThatDecidesAndTheMarginOfTheOthers() {
        var tasks = List.of(
                task("slow", 0, Spread.exactly(100), Double.NaN),
                task("quick", 0, Spread.exactly(30), Double.NaN),
                task("end", 0, Spread.exactly(10), 200, 0, 1));
        var projection = Projection.of(tasks, List.of(), 100, 7);
        assertThat(projection.decidingPath(2)).containsExactly(0, 2);
        assertThat(projection.outlook(0).margin()).isZero();
        assertThat(projection.outlook(1).margin()).isEqualTo(70);
        // What hangs together with nothing of this has its own end.
        var apart = new ArrayList<>(tasks);
        apart.add(task("alone", 500, Spread.exactly(5), Double.NaN));
        assertThat(Projection.of(apart, List.of(), 1, 7).outlook(0).margin()).isZero();
        assertThat(projection.decides(0, 2, 100)).isEqualTo(1);
        assertThat(projection.decides(1, 2, 100)).isZero();
        assertThat(projection.outlook(2).end()).isEqualTo(new Projection.Range(110, 110, 110));
    }

    /** Jobs that run already keep their slots even where there are fewer, and the next waits for enough of them to end. */
    @Test
    void whatRunsAlreadyKeepsItsSlot() {
        var tasks = List.of(
                new Projection.Task("a", 0, List.of(), Spread.exactly(50), 10, -1, Double.NaN, 0),
                new Projection.Task("b", 0, List.of(), Spread.exactly(90), 10, -1, Double.NaN, 0),
                task("c", 0, Spread.exactly(5), Double.NaN));
        var projection = Projection.of(tasks, List.of(1), 10, 7);
        assertThat(projection.likelyEnd(0)).isEqualTo(40);
        assertThat(projection.likelyStart(2)).isEqualTo(80);
    }

    @Test
    void theSameSeedGivesTheSameFigures() {
        var tasks = List.of(task("a", 0, Spread.between(0, 100), 50));
        assertThat(Projection.of(tasks, List.of(), 500, 3).outlook(0))
                .isEqualTo(Projection.of(tasks, List.of(), 500, 3).outlook(0));
        assertThatThrownBy(() -> Projection.of(List.of(task("a", 0, Spread.exactly(1), 5, 1)), List.of(), 1, 1))
                .hasMessageContaining("waits for a task that does not come before it");
    }

    /**
     * With fixed lengths and slots nothing is drawn. Then: nothing starts before what it waits for, never do more run at once
     * than there are slots, and no start could be earlier without one of both or its own time being in the way.
     */
    @Property(tries = 300)
    void slotsAndWaitsAreKeptAndNoTimeIsWasted(@ForAll @IntRange(min = 1, max = 4) int slots, @ForAll long seed) {
        var random = new java.util.SplittableRandom(seed);
        var tasks = new ArrayList<Projection.Task>();
        for (int i = 0; i < 12; i++) {
            int self = i;
            var waits = IntStream.range(0, i)
                    .filter(j -> random.nextInt(self + 2) == 0)
                    .boxed()
                    .toArray(Integer[]::new);
            tasks.add(task("t" + i, random.nextInt(50), Spread.exactly(1 + random.nextInt(40)), Double.NaN, waits));
        }
        var night = Projection.of(tasks, List.of(slots), 1, 1);
        for (int i = 0; i < tasks.size(); i++) {
            double start = night.likelyStart(i);
            double ready = tasks.get(i).ready();
            for (int wait : tasks.get(i).waits()) ready = Math.max(ready, night.likelyEnd(wait));
            assertThat(start).isGreaterThanOrEqualTo(ready);
            assertThat(IntStream.range(0, tasks.size())
                            .filter(j -> night.likelyStart(j) <= start && night.likelyEnd(j) > start)
                            .count())
                    .isLessThanOrEqualTo(slots);
            if (start > ready) {
                double begin = ready;
                double just = start - 0.5;
                assertThat(IntStream.range(0, tasks.size())
                                .filter(j -> night.likelyStart(j) <= just && night.likelyEnd(j) > just)
                                .count())
                        .as("slots taken just before the start of t%d, ready at %s", i, begin)
                        .isEqualTo(slots);
            }
        }
    }

    @Test
    void concurrencyCountsWhatRunsAtOnce() {
        var at = Jobs.at("01:00");
        var steps = Concurrency.of(List.of(
                new Concurrency.Stretch(at, at.plusSeconds(60)),
                new Concurrency.Stretch(at.plusSeconds(30), at.plusSeconds(90)),
                new Concurrency.Stretch(at.plusSeconds(90), at.plusSeconds(100))));
        assertThat(steps)
                .containsExactly(
                        new Concurrency.Step(at, 1),
                        new Concurrency.Step(at.plusSeconds(30), 2),
                        new Concurrency.Step(at.plusSeconds(60), 1),
                        new Concurrency.Step(at.plusSeconds(100), 0));
        assertThat(Concurrency.beyond(steps, 1))
                .containsExactly(new Concurrency.Shortage(at.plusSeconds(30), at.plusSeconds(60), 2, 1));
    }
}
