package app.morvet.standins.machines;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An ailment of one machine for a while.
 *
 * @param to null while it lasts
 */
record Illness(String machine, Ailment ailment, Instant from, @Nullable Instant to) {
    /** A service that is healed takes so long to come up. */
    private static final Duration COMES_UP = Duration.ofSeconds(150);

    /** Of all trouble there ever was, what is felt at an instant: what lasts, and what has just been healed. */
    static List<Illness> feltAt(Instant at, List<Illness> all) {
        return all.stream()
                .filter(one -> one.lastsAt(at) || one.isOverJustBefore(at))
                .toList();
    }

    boolean isOverJustBefore(Instant at) {
        return to != null && !at.isBefore(to) && at.isBefore(to.plus(COMES_UP));
    }

    boolean lastsAt(Instant at) {
        return !at.isBefore(from) && (to == null || at.isBefore(to));
    }

    /** For how long it had lasted at an instant, in hours. */
    double hours(Instant at) {
        return Duration.between(from, at).toSeconds() / 3600.0;
    }
}
