package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.offset;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;

/** What must hold of the robust statistics whatever the values. */
class StatisticsProperties {
    @Property
    void aQuantileLiesWithinTheValuesAndGrowsWithItsShare(
            @ForAll @Size(min = 1, max = 30) List<@DoubleRange(min = -1e6, max = 1e6) Double> some,
            @ForAll @DoubleRange(min = 0, max = 1) double one,
            @ForAll @DoubleRange(min = 0, max = 1) double other) {
        var sorted = some.stream().mapToDouble(it -> it).sorted().toArray();
        double low = Statistics.quantile(sorted, Math.min(one, other));
        double high = Statistics.quantile(sorted, Math.max(one, other));
        assertThat(low).isBetween(sorted[0] - 1e-6, sorted[sorted.length - 1] + 1e-6);
        assertThat(high).isGreaterThanOrEqualTo(low - 1e-6);
        assertThat(Statistics.quantile(sorted, 0)).isEqualTo(sorted[0]);
        assertThat(Statistics.quantile(sorted, 1)).isEqualTo(sorted[sorted.length - 1]);
    }

    @Property
    void ofValuesThatAreMovedAndStretchedTheMedianIsMovedAndTheSpreadStretched(
            @ForAll @Size(min = 1, max = 30) List<@DoubleRange(min = -1e3, max = 1e3) Double> some,
            @ForAll @DoubleRange(min = -100, max = 100) double by,
            @ForAll @DoubleRange(min = 0.1, max = 10) double times) {
        var values = some.stream().mapToDouble(it -> it).toArray();
        var others = Arrays.stream(values).map(value -> value * times + by).toArray();
        double median = Statistics.median(values);
        assertThat(Statistics.median(others)).isEqualTo(median * times + by, offset(1e-6));
        assertThat(Statistics.spread(others, Statistics.median(others)))
                .isEqualTo(times * Statistics.spread(values, median), offset(1e-6));
    }

    /** Fewer than half of the values, however wild, move the median no farther than the others reach. */
    @Property
    void halfOfTheValuesCannotBePulledAwayByTheOthers(
            @ForAll @IntRange(min = 3, max = 40) int count, @ForAll @DoubleRange(min = 1e3, max = 1e9) double wild) {
        var values = new double[count];
        for (int i = 0; i < count; i++) values[i] = i < (count - 1) / 2 ? wild : i % 10;
        assertThat(Statistics.median(values)).isBetween(0.0, 9.0);
        assertThat(Statistics.spread(values, Statistics.median(values))).isLessThanOrEqualTo(9 * Statistics.NORMAL);
    }

    /** Nothing is sorted as a whole, and yet what is read is what sorting would have put there, to the last digit. */
    @Property
    void whatIsPutInItsPlaceIsWhatSortingWouldPutThere(
            @ForAll @Size(min = 1, max = 60) List<@IntRange(min = -9, max = 9) Integer> some, @ForAll int seed) {
        var sorted = some.stream().mapToDouble(it -> it / 7.0).sorted().toArray();
        var placed = some.stream().mapToDouble(it -> it / 7.0).toArray();
        int at = Math.floorMod(seed, placed.length);
        Statistics.place(placed, at);
        assertThat(placed[at]).isEqualTo(sorted[at]);
        assertThat(Statistics.quantile(placed, 0.5)).isEqualTo(Statistics.quantile(sorted, 0.5));
        assertThat(Arrays.stream(placed).sorted().toArray()).isEqualTo(sorted);
    }

    @Property
    void aSlopeAndItsIntervalAreThoseOfAllSlopesSorted(
            @ForAll @Size(min = 2, max = 40) List<@IntRange(min = -50, max = 50) Integer> heights) {
        var x = IntStream.range(0, heights.size())
                .mapToDouble(i -> i + i % 3 / 10.0)
                .toArray();
        var y = heights.stream().mapToDouble(it -> it).toArray();
        var slopes = IntStream.range(0, x.length)
                .boxed()
                .flatMapToDouble(i -> IntStream.range(i + 1, x.length).mapToDouble(j -> (y[j] - y[i]) / (x[j] - x[i])))
                .sorted()
                .toArray();
        var line = TheilSen.of(x, y);
        assertThat(line.slope()).isEqualTo(Statistics.quantile(slopes, 0.5));
        assertThat(slopes).contains(line.low(), line.high());
        // As many slopes lie under the interval as over it, by one at most.
        long under = Arrays.stream(slopes).filter(one -> one < line.low()).count();
        long over = Arrays.stream(slopes).filter(one -> one > line.high()).count();
        double reach = 1.96 * Math.sqrt(x.length * (x.length - 1.0) * (2.0 * x.length + 5) / 18);
        assertThat(Math.max(under, over)).isLessThanOrEqualTo((long) Math.ceil((slopes.length - reach) / 2) + 1);
    }

    @Property
    void aStraightLineIsFoundThoughOneInFivePointsIsWild(
            @ForAll @DoubleRange(min = -50, max = 50) double slope,
            @ForAll @DoubleRange(min = -50, max = 50) double intercept,
            @ForAll @IntRange(min = 10, max = 60) int count,
            @ForAll @IntRange(max = 10_000) int seed) {
        var random = new Random(seed);
        var x = new double[count];
        var y = new double[count];
        for (int i = 0; i < count; i++) {
            x[i] = i;
            y[i] = slope * i + intercept;
        }
        for (int i = 0; i < count / 5; i++) y[random.nextInt(count)] = 1e4 * (random.nextDouble() - 0.5);
        var line = TheilSen.of(x, y);
        assertThat(line.slope()).isEqualTo(slope, offset(1e-6));
        assertThat(line.intercept()).isEqualTo(intercept, offset(1e-5));
        assertThat(line.low()).isLessThanOrEqualTo(line.slope() + 1e-9);
        assertThat(line.high()).isGreaterThanOrEqualTo(line.slope() - 1e-9);
    }

    /** Of lines with noise of their own the interval should hold the true slope in about 95 of 100 cases. */
    @Example
    void theIntervalHoldsTheTrueSlopeAboutAsOftenAsItSays() {
        var random = new Random(11);
        int held = 0;
        for (int run = 0; run < 1000; run++) {
            var x = new double[25];
            var y = new double[25];
            for (int i = 0; i < x.length; i++) {
                x[i] = i;
                y[i] = 2 * i + 5 * random.nextGaussian();
            }
            var line = TheilSen.of(x, y);
            if (line.low() <= 2 && 2 <= line.high()) held++;
        }
        assertThat(held).isBetween(920, 980);
    }

    @Example
    void ofNothingThereIsNoFigure() {
        assertThatThrownBy(() -> Statistics.quantile(new double[0], 0.5)).hasMessage("no values have no quantile");
        assertThatThrownBy(() -> TheilSen.of(new double[] {1}, new double[] {1}))
                .hasMessageStartingWith("a line needs two points or more");
        assertThatThrownBy(() -> TheilSen.of(new double[] {1, 2}, new double[] {1}))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
