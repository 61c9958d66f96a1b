package app.morvet.standins.hub;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A time in which an interface is broken.
 *
 * @param to    when it is mended; null while it is not
 * @param share of its messages that fail, 0 to 1
 */
record Episode(String carrier, Fault fault, Instant from, @Nullable Instant to, double share) {
    boolean overlaps(Instant begin, Instant end) {
        return from.isBefore(end) && (to == null || to.isAfter(begin));
    }

    boolean covers(Instant at) {
        return !at.isBefore(from) && (to == null || at.isBefore(to));
    }
}
