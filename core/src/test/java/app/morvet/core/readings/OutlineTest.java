package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Readings folded into equal stretches. */
class OutlineTest {
    private static final Instant FROM = Instant.parse("2027-03-18T02:00:00Z");
    private static final Instant TO = FROM.plusSeconds(600);
    private static final double NONE = Double.NaN;

    /** Pairs of seconds after the begin and values. */
    private static Readings readings(double... pairs) {
        var times = new long[pairs.length / 2];
        var values = new double[times.length];
        for (int i = 0; i < times.length; i++) {
            times[i] = Micros.of(FROM) + (long) (pairs[2 * i] * 1e6);
            values[i] = pairs[2 * i + 1];
        }
        return new Readings(times, values);
    }

    @Test
    void eachStretchHasTheLeastTheMeanAndTheGreatestOfItsReadings() {
        var outline = Outline.of(
                readings(-5, 900, 0, 4, 100, 8, 299.9, 90, 300, 6, 599, 2, 600, 900), Sort.GAUGE, FROM, TO, 4);
        assertThat(outline.least()).containsExactly(4, 90, 6, 2);
        assertThat(outline.mean()).containsExactly(6, 90, 6, 2);
        assertThat(outline.greatest()).as("a peak of one reading is there").containsExactly(8, 90, 6, 2);
        assertThat(outline.figures()).isEqualTo(new Outline.Figures(5, 2, 22, 90, 2));
        assertThat(outline.at()[0]).isEqualTo(Micros.of(FROM.plusSeconds(75)));
    }

    @Test
    void whereNothingWasHeardIsNothing() {
        var outline = Outline.of(readings(10, 4), Sort.GAUGE, FROM, TO, 2);
        assertThat(outline.mean()).containsExactly(4, NONE);
        var silent = Outline.of(Readings.NONE, Sort.GAUGE, FROM, TO, 2);
        assertThat(silent.mean()).containsExactly(NONE, NONE);
        assertThat(silent.figures().count()).isZero();
        assertThat(silent.figures().mean()).isNaN();
    }

    /** Where it is looked at closely a stretch is shorter than readings are apart: an empty one between two is no silence. */
    @Test
    void nothingIsMissingBetweenReadingsThatComeAsTheyUsuallyDo() {
        var close = Outline.of(readings(0, 1, 60, 2, 121, 3, 180, 4, 420, 5, 480, 6), Sort.GAUGE, FROM, TO, 60);
        assertThat(close.mean()[1]).isNaN();
        assertThat(close.reach()).as("three times that, and one stretch").containsOnly(190_000_000);
        assertThat(Outline.of(readings(10, 4), Sort.GAUGE, FROM, TO, 60).reach())
                .as("one alone says nothing of when the next was to come")
                .containsOnly(10_000_000);
        assertThat(Outline.of(readings(10, 3, 20, 7), Sort.COUNT, FROM, TO, 5).reach())
                .as("where nothing was counted there was nothing")
                .containsOnly(120_000_000);
    }

    /** A feed that is made to tell more often, or less, is silent at no time; one that falls silent is, before that and after. */
    @Test
    void nothingIsMissingWhereAFeedBeginsToTellMoreOrLessOften() {
        var pairs = new ArrayList<Double>();
        for (int at = 0; at < 240; at += 30) pairs.addAll(List.of(at + 0.0, 1.0));
        for (int at = 240; at < 360; at += 2) pairs.addAll(List.of(at + 0.0, 2.0));
        for (int at = 400; at < 600; at += 2) pairs.addAll(List.of(at + 0.0, 3.0));
        var told = Outline.of(
                readings(pairs.stream().mapToDouble(Double::doubleValue).toArray()), Sort.GAUGE, FROM, TO, 600);
        assertThat(told.reach()[0]).as("each half minute").isEqualTo(91_000_000);
        assertThat(told.reach()[240]).as("the first that comes sooner").isEqualTo(91_000_000);
        assertThat(told.reach()[300]).as("each two seconds").isEqualTo(7_000_000);
        assertThat(Math.max(told.reach()[358], told.reach()[400]))
                .as("before and after 42 s of silence")
                .isEqualTo(7_000_000);
    }

    @Test
    void aCounterIsTheGrowthAMinuteOverItsRestarts() {
        var outline = Outline.of(readings(-60, 100, 60, 300, 120, 330, 180, 12), Sort.COUNTER, FROM, TO, 2);
        assertThat(outline.least()[0]).isEqualTo(12);
        assertThat(outline.greatest()[0])
                .as("from the reading before the span on")
                .isEqualTo(100);
        assertThat(outline.figures().last())
                .as("what it has since it began again")
                .isEqualTo(12);
        assertThat(outline.mean()[1]).isNaN();
    }

    @Test
    void aCountIsHowManyThereWereAMinuteAndSilenceIsNone() {
        var outline = Outline.of(readings(10, 3, 20, 7, 590, 5), Sort.COUNT, FROM, TO, 5);
        assertThat(outline.mean()).containsExactly(5, 0, 0, 0, 2.5);
        assertThat(outline.figures().mean()).isEqualTo(1.5);
        assertThat(outline.figures().least()).isZero();
    }

    @Test
    void whatWasCountedElsewhereIsTheSame() {
        var counted = Outline.of(readings(10, 3, 20, 7, 590, 5), Sort.COUNT, FROM, TO, 5);
        var outline = Outline.ofCounts(new long[] {10, 0, 0, 0, 5}, FROM, TO);
        assertThat(outline.mean()).containsExactly(counted.mean());
        assertThat(outline.at()).containsExactly(counted.at());
        assertThat(outline.figures()).isEqualTo(counted.figures()).isEqualTo(new Outline.Figures(15, 0, 1.5, 5, 2.5));
    }

    @Test
    void noReadingIsLostNorCountedTwiceHoweverFineTheStretches() {
        var random = new Random(7);
        var pairs = new double[2000];
        double at = 0;
        for (int i = 0; i < 1000; i++) {
            at += random.nextDouble() * 0.55;
            pairs[2 * i] = at;
            pairs[2 * i + 1] = random.nextGaussian();
        }
        var all = readings(pairs).between(FROM, TO);
        for (int stretches : new int[] {1, 7, 400, 5000}) {
            var gauge = Outline.of(all, Sort.GAUGE, FROM, TO, stretches);
            assertThat(gauge.figures().count()).isEqualTo(all.size());
            double high = Arrays.stream(gauge.greatest())
                    .filter(Double::isFinite)
                    .max()
                    .orElseThrow();
            assertThat(high).isEqualTo(gauge.figures().greatest());
            var count = Outline.of(all, Sort.COUNT, FROM, TO, stretches);
            double sum = Arrays.stream(count.mean()).sum() * 10 / stretches;
            assertThat(sum).isCloseTo(Arrays.stream(all.values()).sum(), within(1e-6));
        }
    }

    @Test
    void anEmptySpanIsRefused() {
        assertThatThrownBy(() -> Outline.of(Readings.NONE, Sort.GAUGE, TO, FROM, 2))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
