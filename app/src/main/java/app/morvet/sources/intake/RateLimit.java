package app.morvet.sources.intake;

import app.morvet.ground.base.Nanos;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.LoadingCache;
import io.github.bucket4j.Bucket;
import java.time.Duration;
import java.util.function.LongSupplier;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** How often a feed may ask in one second, on this node. A feed gone wild is slowed down, and the others are not. */
@Component
class RateLimit {
    static final int PER_SECOND = 500;
    private static final Duration FORGOTTEN = Duration.ofMinutes(10);

    private final LoadingCache<Long, Bucket> buckets;

    @Autowired
    RateLimit() {
        this(System::nanoTime);
    }

    RateLimit(LongSupplier nanos) {
        var meter = new Nanos(nanos);
        this.buckets = Caffeine.newBuilder().expireAfterAccess(FORGOTTEN).build(feed -> Bucket.builder()
                .withCustomTimePrecision(meter)
                .addLimit(limit -> limit.capacity(PER_SECOND).refillGreedy(PER_SECOND, Duration.ofSeconds(1)))
                .build());
    }

    boolean allows(long feed) {
        return buckets.get(feed).tryConsume(1);
    }
}
