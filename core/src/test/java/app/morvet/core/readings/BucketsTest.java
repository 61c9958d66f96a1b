package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.offset;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** Percentiles of histograms, from what was added between two pages. */
class BucketsTest {
    private static Buckets of(double... counts) {
        var lines = new TreeMap<Double, Double>();
        double[] bounds = {0.1, 0.2, 0.5, Double.POSITIVE_INFINITY};
        for (int i = 0; i < counts.length; i++) lines.put(bounds[bounds.length - counts.length + i], counts[i]);
        return Buckets.of(lines);
    }

    @Test
    void aPercentileLiesInItsBucketAsEvenlySpread() {
        var buckets = of(10, 30, 40, 40);
        assertThat(buckets.quantile(0.5).orElseThrow()).isEqualTo(0.15, offset(1e-12));
        assertThat(buckets.quantile(0.25).orElseThrow()).isEqualTo(0.1, offset(1e-12));
        assertThat(buckets.quantile(0.875).orElseThrow()).isEqualTo(0.35, offset(1e-12));
        assertThat(buckets.quantile(1).orElseThrow()).isEqualTo(0.5, offset(1e-12));
    }

    @Test
    void beyondTheLastBoundNothingIsGuessed() {
        assertThat(of(0, 0, 0, 7).quantile(0.5)).hasValue(0.5);
        assertThat(of(1, 1, 1, 100).quantile(0.99)).hasValue(0.5);
    }

    @Test
    void ofNothingThereIsNoPercentile() {
        assertThat(of(0, 0, 0, 0).quantile(0.5)).isEmpty();
        assertThat(Buckets.of(new TreeMap<>()).quantile(0.5)).isEmpty();
    }

    @Test
    void whatWasAddedIsTheDifferenceUnlessTheCounterBeganAnew() {
        assertThat(of(5, 9, 9, 9).since(of(5, 6, 6, 6))).isEqualTo(of(0, 3, 3, 3));
        assertThat(of(5, 9, 9, 9).since(of(6, 6, 6, 6))).as("restarted").isEqualTo(of(5, 9, 9, 9));
        assertThat(of(5, 9, 9, 9).since(of(1, 1))).as("with other bounds").isEqualTo(of(5, 9, 9, 9));
    }

    @Property
    void aGreaterShareIsNeverALesserValueAndStaysWithinTheBounds(
            @ForAll @Size(4) List<@IntRange(max = 1000) Integer> added,
            @ForAll @DoubleRange(min = 0, max = 1) double one,
            @ForAll @DoubleRange(min = 0, max = 1) double other) {
        var counts = new double[4];
        for (int i = 0; i < 4; i++) counts[i] = (i == 0 ? 0 : counts[i - 1]) + added.get(i);
        var buckets = of(counts);
        if (counts[3] == 0) return;
        double low = buckets.quantile(Math.min(one, other)).orElseThrow();
        double high = buckets.quantile(Math.max(one, other)).orElseThrow();
        assertThat(low).isBetween(0.0, 0.5);
        assertThat(high).isGreaterThanOrEqualTo(low - 1e-12);
    }

    @Test
    void sharesAreNamedAsPercents() {
        assertThat(Arrays.stream(new double[] {0.5, 0.95, 0.99, 0.999}).mapToObj(Buckets::percent))
                .containsExactly("50", "95", "99", "99_9");
        assertThat(Buckets.shares()).isEqualTo(Map.of("p50", 0.5, "p95", 0.95, "p99", 0.99));
    }
}
