package app.morvet.core.alert;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A change of an alert.
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
        /** To a worse severity. */
        ROSE,
        /** To a milder severity, after the clear time. */
        EASED,
        /** It has come and gone so often that it stays up as one alert until it is steady. */
        FLAPS,
        /** Over, after the clear time. */
        CLEARED
    }
}
