package app.morvet.sources.intake;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.LongSupplier;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** How often a feed may ask in one second. A feed gone wild is slowed down, and the others are not. */
@Component
class RateLimit {
    static final int PER_SECOND = 500;

    private record Second(long number, int requests) {}

    private final Map<Long, Second> seconds = new ConcurrentHashMap<>();
    private final LongSupplier nanos;

    @Autowired
    RateLimit() {
        this(System::nanoTime);
    }

    RateLimit(LongSupplier nanos) {
        this.nanos = nanos;
    }

    boolean allows(long feed) {
        long number = Math.floorDiv(nanos.getAsLong(), 1_000_000_000L);
        var counted = seconds.merge(
                feed,
                new Second(number, 1),
                (before, first) -> before.number() == number ? new Second(number, before.requests() + 1) : first);
        return counted.requests() <= PER_SECOND;
    }
}
