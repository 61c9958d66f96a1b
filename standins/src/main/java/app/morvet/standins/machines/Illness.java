package app.morvet.standins.machines;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An ailment of one machine for a while.
 *
 * @param to null while it lasts
 */
record Illness(String machine, Ailment ailment, Instant from, @Nullable Instant to) {
    boolean lastsAt(Instant at) {
        return !at.isBefore(from) && (to == null || at.isBefore(to));
    }

    /** For how long it had lasted at an instant, in hours. */
    double hours(Instant at) {
        return java.time.Duration.between(from, at).toSeconds() / 3600.0;
    }
}
