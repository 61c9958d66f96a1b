package app.morvet.ground.base;

import io.github.bucket4j.TimeMeter;
import java.util.function.LongSupplier;

/**
 * The clock of a rate that is counted on one node.
 *
 * @param now in nanoseconds, from any origin; it never goes back
 */
public record Nanos(LongSupplier now) implements TimeMeter {
    @Override
    public long currentTimeNanos() {
        return now.getAsLong();
    }

    @Override
    public boolean isWallClockBased() {
        return false;
    }
}
