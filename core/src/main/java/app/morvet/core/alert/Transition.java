package app.morvet.core.alert;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A change of an alert.
 *
 * @param kind  what changed
 * @param at    the event time at which it changed, not the time at which it was noticed
 * @param level the severity from then on; null when cleared
 * @param value the measured value at {@code at}
 * @param worst the highest value since the alert was raised
 */
public record Transition(Kind kind, Instant at, @Nullable Severity level, double value, double worst) {

    public enum Kind {
        /** There was no alert, now there is. */
        RAISED,
        /** From warning to critical. */
        ROSE,
        /** From critical to warning, after the clear time. */
        EASED,
        /** Over, after the clear time. */
        CLEARED
    }
}
