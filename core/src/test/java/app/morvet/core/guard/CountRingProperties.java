package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class CountRingProperties {
    private static final Instant START = Instant.parse("2026-11-24T00:00:00Z");

    @Property(tries = 300)
    void inWhateverOrderCountsComeInEveryWindowAddsUp(
            @ForAll @Size(max = 200) List<@IntRange(max = 1000) Integer> seconds,
            @ForAll @IntRange(max = 1000) int from,
            @ForAll @IntRange(max = 1000) int to) {
        var ring = new CountRing();
        seconds.forEach(second -> ring.add(START.plusSeconds(second), 2));
        int low = Math.min(from, to);
        int high = Math.max(from, to);
        long inside = seconds.stream()
                .filter(second -> second > low && second <= high)
                .count();
        assertThat(ring.countBetween(START.plusSeconds(low), START.plusSeconds(high)))
                .isEqualTo(2.0 * inside);
        assertThat(ring.nextAfter(START.plusSeconds(low)))
                .isEqualTo(seconds.stream()
                        .filter(second -> second > low)
                        .sorted()
                        .findFirst()
                        .map(START::plusSeconds)
                        .orElse(Instant.MAX));
    }

    @Property(tries = 200)
    void forgettingChangesNoWindowThatIsStillAskedFor(
            @ForAll @Size(max = 200) List<@IntRange(max = 1000) Integer> seconds,
            @ForAll @IntRange(min = 1, max = 500) int reach) {
        var ring = new CountRing();
        var kept = new CountRing();
        seconds.forEach(second -> ring.add(START.plusSeconds(second), 1));
        seconds.forEach(second -> kept.add(START.plusSeconds(second), 1));
        var now = START.plusSeconds(1000);
        ring.forget(now, Duration.ofSeconds(reach));
        for (int back = 0; back < reach; back += 7) {
            assertThat(ring.countBetween(now.minusSeconds(back), now))
                    .isEqualTo(kept.countBetween(now.minusSeconds(back), now));
        }
        assertThat(ring.size()).isLessThanOrEqualTo(kept.size());
    }

    @Test
    void aCountIsFiniteAndNotNegative() {
        assertThatThrownBy(() -> new CountRing().add(START, -1)).hasMessageContaining("0 or more, was -1");
        assertThatThrownBy(() -> new CountRing().add(START, Double.NaN)).hasMessageContaining("finite");
    }
}
