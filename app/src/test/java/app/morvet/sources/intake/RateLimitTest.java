package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RateLimitTest {
    private static final long SECOND = 1_000_000_000L;

    /** The clock of the machine may begin anywhere, below zero too. */
    @ParameterizedTest
    @ValueSource(longs = {0, 7 * SECOND, -3 * SECOND, -SECOND / 2})
    void aFeedGoneWildIsSlowedDownAndTheOthersAreNot(long start) {
        var nanos = new AtomicLong(start);
        var rate = new RateLimit(nanos::get);
        assertThat(allowed(rate, 1, RateLimit.PER_SECOND + 50)).isEqualTo(RateLimit.PER_SECOND);
        assertThat(allowed(rate, 2, 10)).isEqualTo(10);
        nanos.addAndGet(SECOND / 10);
        assertThat(allowed(rate, 1, RateLimit.PER_SECOND)).isEqualTo(RateLimit.PER_SECOND / 10);
        nanos.addAndGet(SECOND);
        assertThat(allowed(rate, 1, RateLimit.PER_SECOND + 50)).isEqualTo(RateLimit.PER_SECOND);
        nanos.addAndGet(60 * SECOND);
        assertThat(allowed(rate, 1, 3)).isEqualTo(3);
    }

    @Test
    void requestsAtTheSameMomentAreCountedEachOnce() {
        var rate = new RateLimit(() -> 5 * SECOND);
        long allowed = IntStream.range(0, 4 * RateLimit.PER_SECOND)
                .parallel()
                .filter(i -> rate.allows(1))
                .count();
        assertThat(allowed).isEqualTo(RateLimit.PER_SECOND);
    }

    private static long allowed(RateLimit rate, long feed, int asked) {
        return IntStream.range(0, asked).filter(i -> rate.allows(feed)).count();
    }
}
