package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.stream.IntStream;
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

    /** Counts may come several at an instant. */
    @Test
    void whereMostComeAtOnceNothingBreaks() {
        var counts = new Readings(new long[] {0, 0, 0, 7 * MINUTE}, new double[] {1, 2, 1, 1});
        assertThat(Thinned.of(counts, 10).values()).containsExactly(1, 2, 1, 1);
    }
}
