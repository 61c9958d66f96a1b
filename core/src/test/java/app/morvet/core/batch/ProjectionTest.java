package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
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

    /** Beyond what was seen a Pareto tail goes on: P(≤ m) = 1 − (3/2)⁻³ for its mean m, here half of 200 − 50. */
    @Test
    void aRunBeyondAllThatWasSeenHasHalfOfWhatLiesOverTheMedianLeft() {
        var running = new Projection.Task("a", 0, List.of(), Spread.between(0, 100), 200, -1, 75, -1);
        assertThat(makes(List.of(running), 0)).isCloseTo(1 - Math.pow(1.5, -3), within(0.01));
    }

    /** Of 300 runs of about 600 s the longest took 700: whoever has run 698 s is not as good as done. */
    @Test
    void aSecondMoreNeverTurnsTheOutlookRound() {
        var values = new double[300];
        var random = new java.util.SplittableRandom(5);
        for (int i = 0; i < values.length; i++) values[i] = 500 + random.nextDouble(200);
        var weights = new double[values.length];
        java.util.Arrays.fill(weights, 1);
        var usual = Spread.of(values, weights, "");
        double before = Double.NaN;
        for (int elapsed = 640; elapsed < 720; elapsed++) {
            var running = new Projection.Task("a", 0, List.of(), usual, elapsed, -1, 720 - elapsed, -1);
            double makes = makes(List.of(running), 0);
            if (elapsed > 640) assertThat(makes).as("after " + elapsed + " s").isCloseTo(before, within(0.25));
            before = makes;
        }
    }

    @Property
    void whateverHasPassedWhatIsDrawnIsNotLessAndGrowsWithTheDraw(
            @ForAll @DoubleRange(min = 0, max = 5000) double elapsed,
            @ForAll @DoubleRange(min = 0, max = 1) double u,
            @ForAll @DoubleRange(min = 0, max = 1) double v) {
        for (var usual : List.of(Spread.exactly(100), Spread.between(10, 3000), Spread.between(0, 0))) {
            double low = usual.beyond(elapsed, Math.min(u, v));
            assertThat(low).isFinite().isGreaterThanOrEqualTo(elapsed);
            assertThat(usual.beyond(elapsed, Math.max(u, v))).isGreaterThanOrEqualTo(low);
        }
        assertThat(Spread.exactly(100).beyond(99, u)).isEqualTo(100);
    }

    @Property
    void aSampleOfAnyTwoLengthsIsASpread(
            @ForAll @DoubleRange(min = 0, max = 1e5) double one,
            @ForAll @DoubleRange(min = 0, max = 1e5) double other) {
        var spread = Spread.of(new double[] {one, other}, new double[] {1, 1}, "");
        assertThat(spread.quantile(0)).isEqualTo(Math.min(one, other));
        assertThat(spread.quantile(1)).isEqualTo(Math.max(one, other));
        assertThat(Spread.of(new double[] {2847.151934, 212.663902}, new double[] {1, 1}, "")
                        .median())
                .isCloseTo(1529.9, within(0.1));
    }

    /** One slot: b runs after a and c after both, so whatever a takes more moves the end. */
    @Test
    void aMarginKnowsOfSlots() {
        var tasks = List.of(
                task("a", 0, Spread.exactly(100), Double.NaN),
                task("b", 0, Spread.exactly(50), Double.NaN),
                task("c", 0, Spread.exactly(10), Double.NaN, 0, 1));
        assertThat(Projection.of(tasks, List.of(1), 1, 1).outlook(0).margin()).isZero();
        assertThat(Projection.of(tasks, List.of(1), 1, 1).outlook(1).margin()).isZero();
        assertThat(Projection.of(tasks, List.of(2), 1, 1).outlook(1).margin()).isEqualTo(50);
    }

    /** What is told as the margin of a task is held against nights in which that task takes as much longer. */
    @Property(tries = 300)
    void withinItsMarginATaskMovesNoEndAndBeyondItDoes(@ForAll @IntRange(max = 3) int slots, @ForAll long seed) {
        var random = new java.util.SplittableRandom(seed);
        var lengths = new double[8];
        var waits = new Integer[8][];
        for (int i = 0; i < 8; i++) {
            int self = i;
            lengths[i] = 1 + random.nextInt(60);
            waits[i] = IntStream.range(0, i)
                    .filter(j -> random.nextInt(self + 1) == 0)
                    .boxed()
                    .toArray(Integer[]::new);
        }
        var pools = slots == 0 ? List.<Integer>of() : List.of(slots);
        var night = Projection.of(tasks(lengths, waits), pools, 1, 1);
        for (int i = 0; i < 8; i++) {
            double margin = night.outlook(i).margin();
            var slipped = lengths.clone();
            slipped[i] += margin;
            assertThat(later(night, Projection.of(tasks(slipped, waits), pools, 1, 1), waits))
                    .isFalse();
            slipped[i] += slots == 0 ? 0.5 : 1.5;
            // With slots a longer job may change who takes which and even end all sooner; there a margin is the first
            // that harms.
            if (slots < 2)
                assertThat(later(night, Projection.of(tasks(slipped, waits), pools, 1, 1), waits))
                        .isTrue();
        }
    }

    private static List<Projection.Task> tasks(double[] lengths, Integer[][] waits) {
        return IntStream.range(0, lengths.length)
                .mapToObj(i -> task("t" + i, 0, Spread.exactly(lengths[i]), Double.NaN, waits[i]))
                .toList();
    }

    /** Whether the end of any chain, of all that hang together by what they wait for, is later. */
    private static boolean later(Projection before, Projection after, Integer[][] waits) {
        var chain = IntStream.range(0, waits.length).toArray();
        for (int round = 0; round < waits.length; round++)
            for (int i = 0; i < waits.length; i++)
                for (int wait : waits[i]) chain[i] = chain[wait] = Math.min(chain[i], chain[wait]);
        return IntStream.range(0, waits.length).anyMatch(of -> end(after, chain, of) > end(before, chain, of) + 1e-3);
    }

    private static double end(Projection night, int[] chain, int of) {
        return IntStream.range(0, chain.length)
                .filter(i -> chain[i] == of)
                .mapToDouble(night::likelyEnd)
                .max()
                .orElse(0);
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
