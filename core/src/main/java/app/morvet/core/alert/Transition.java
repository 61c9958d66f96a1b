package app.morvet.core.alert;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A change of an alert, or another value of one that stays as it is.
 *
 * @param kind  what changed
 * @param at    the event time at which it changed, not the time at which it was noticed
 * @param level the severity from then on; null when cleared
 * @param value the measured value at {@code at}; NaN where there was none
 * @param worst the worst value since the alert was raised; NaN where there was none
 */
public record Transition(Kind kind, Instant at, @Nullable Severity level, double value, double worst) {

    public enum Kind {
        /** There was no alert, now there is. */
        RAISED,
        /** It was up and held, and is held no longer. */
        RELEASED,
        /** To a worse severity. */
        ROSE,
        /** To a milder severity, after the clear time. */
        EASED,
        /** It has come and gone so often that it stays up as one alert until it is steady. */
        FLAPS,
        /** It stays up as it is, with another value. */
        SAYS,
        /** Over, after the clear time. */
        CLEARED
    }

    /**
     * From one severity to another: the one place that says what that is called.
     *
     * @param before null while there is no alert
     * @param after  null where there is none any more
     * @throws IllegalArgumentException where there is none before and after
     */
    public static Transition between(
            @Nullable Severity before, @Nullable Severity after, Instant at, double value, double worst) {
        if (before == null && after == null) throw new IllegalArgumentException("nothing is up, and nothing was");
        Kind kind;
        if (before == null) kind = Kind.RAISED;
        else if (after == null) kind = Kind.CLEARED;
        else if (after.worseThan(before)) kind = Kind.ROSE;
        else kind = before.worseThan(after) ? Kind.EASED : Kind.SAYS;
        return new Transition(kind, at, after, value, worst);
    }
}
