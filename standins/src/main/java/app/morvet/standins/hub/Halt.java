package app.morvet.standins.hub;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A time in which an interface did not run and carried nothing.
 *
 * @param to      when it ran again; null while it does not
 * @param state   stopped or failed to deploy
 * @param version that was to run
 */
record Halt(String carrier, Instant from, @Nullable Instant to, String state, String reason, String version) {
    boolean covers(Instant at) {
        return !at.isBefore(from) && (to == null || at.isBefore(to));
    }
}
