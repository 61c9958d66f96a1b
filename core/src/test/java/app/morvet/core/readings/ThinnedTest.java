package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** Readings as a curve of so many points shows them. */
class ThinnedTest {
    private static final long MINUTE = 60_000_000;

    private static Readings eachMinute(double... values) {
        return new Readings(
                IntStream.range(0, values.length).mapToLong(i -> i * MINUTE).toArray(), values);
    }

    @Test
    void fewReadingsStayAsTheyAre() {
        var few = eachMinute(3, 1, 2);
        var thinned = Thinned.of(few, 10);
        assertThat(thinned.times()).containsExactly(few.times());
        assertThat(thinned.values()).containsExactly(3, 1, 2);
        assertThat(Thinned.of(Readings.NONE, 10).size()).isZero();
    }

    @Test
    void ofEachPieceTheLeastAndTheGreatestStayInTheirOrderAndTheLastOfAll() {
        var thinned = Thinned.of(eachMinute(5, 9, 1, 5, 2, 2, 2, 8, 4, 4, 4, 4), 6);
        assertThat(thinned.values()).containsExactly(9, 1, 2, 8, 4, 4);
        assertThat(thinned.times())
                .containsExactly(MINUTE, 2 * MINUTE, 4 * MINUTE, 7 * MINUTE, 8 * MINUTE, 11 * MINUTE);
    }

    @Test
    void aPeakOfOneReadingIsInALongCurve() {
        var values = new double[90 * 1440];
        values[77_777] = 40;
        values[100_001] = -40;
        var thinned = Thinned.of(eachMinute(values), 600);
        assertThat(thinned.size()).isLessThanOrEqualTo(601);
        assertThat(Arrays.stream(thinned.values()).max()).hasValue(40);
        assertThat(Arrays.stream(thinned.values()).min()).hasValue(-40);
        assertThat(thinned.times()).isSorted();
    }

    /** A line over a silence would say what nobody heard. */
    @Test
    void itBreaksWhereLongerThanUsualNothingWasHeard() {
        var told = new Readings(
                new long[] {0, MINUTE, 2 * MINUTE, 5 * MINUTE, 9 * MINUTE, 10 * MINUTE, 11 * MINUTE},
                new double[] {1, 1, 1, 2, 3, 3, 3});
        for (int points : new int[] {100, 4}) {
            var thinned = Thinned.of(told, points);
            assertThat(thinned.values()).as("in %d points", points).containsOnlyOnce(Double.NaN);
            int gap = IntStream.range(0, thinned.size())
                    .filter(i -> Double.isNaN(thinned.values()[i]))
                    .findFirst()
                    .orElseThrow();
            assertThat(thinned.times()[gap]).isEqualTo(7 * MINUTE);
            assertThat(thinned.values()[gap - 1]).isEqualTo(2);
            assertThat(thinned.values()[gap + 1]).isEqualTo(3);
        }
    }

    /** What is told more often or less than before is not missing; a silence is, also where it is about as long as what once was usual. */
    @Test
    void whereAFeedBeginsToTellMoreOrLessOftenNothingBreaks() {
        var times = LongStream.concat(
                        LongStream.range(0, 50).map(i -> 5 * i * MINUTE),
                        LongStream.range(0, 900).map(i -> 250 * MINUTE + i * MINUTE / 6))
                .toArray();
        assertThat(Thinned.of(readings(times), 2000).values()).doesNotContain(Double.NaN);
        long end = times[times.length - 1];
        var silent = LongStream.concat(
                        Arrays.stream(times), LongStream.range(0, 60).map(i -> end + 5 * MINUTE + i * MINUTE / 6))
                .toArray();
        for (int points : new int[] {2000, 100}) {
            var thinned = Thinned.of(readings(silent), points);
            assertThat(thinned.values()).as("in %d points", points).containsOnlyOnce(Double.NaN);
        }
        var backwards = Arrays.stream(times).map(at -> end - at).sorted().toArray();
        assertThat(Thinned.of(readings(backwards), 2000).values()).doesNotContain(Double.NaN);
    }

    @Test
    void theLastReadingAfterASilenceStandsAlone() {
        var times = LongStream.concat(
                        LongStream.range(0, 30).map(i -> i * MINUTE), LongStream.of(50 * MINUTE, 51 * MINUTE))
                .toArray();
        assertThat(Thinned.of(readings(times), 100).values()).containsOnlyOnce(Double.NaN);
        assertThat(Thinned.of(readings(Arrays.copyOf(times, 31)), 100).values()).containsOnlyOnce(Double.NaN);
        assertThat(Thinned.of(readings(new long[] {0, 50 * MINUTE, 51 * MINUTE}), 100)
                        .values())
                .as("of two steps nobody knows which is the usual one")
                .doesNotContain(Double.NaN);
    }

    private static Readings readings(long... times) {
        return new Readings(times, new double[times.length]);
    }

    /** Counts may come several at an instant. */
    @Test
    void whereMostComeAtOnceNothingBreaks() {
        var counts = new Readings(new long[] {0, 0, 0, 7 * MINUTE}, new double[] {1, 2, 1, 1});
        assertThat(Thinned.of(counts, 10).values()).containsExactly(1, 2, 1, 1);
    }
}
