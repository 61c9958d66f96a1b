package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What an evaluation has to remember of one guard on one subject. Small on purpose: with the readings it is all that a
 * restart needs.
 *
 * @param evaluatedTo everything up to and at this instant has been judged
 * @param level       the severity of the raised alert, or null while there is none
 * @param raisedAt    when that alert was raised, or null
 * @param calmSince   since when the count is back within the clear margin of {@code level}, or null
 * @param clearSince  since when it is back within the clear margin of every limit, or null; never before calmSince
 * @param value       the count at {@code evaluatedTo}
 * @param worst       the highest count since the alert was raised; 0 while there is none
 */
public record GuardState(
        Instant evaluatedTo,
        @Nullable Severity level,
        @Nullable Instant raisedAt,
        @Nullable Instant calmSince,
        @Nullable Instant clearSince,
        double value,
        double worst) {

    /** Nothing known, nothing raised. */
    public static GuardState startingAt(Instant at) {
        return new GuardState(at, null, null, null, null, 0, 0);
    }

    /** The same, with nothing new up to a later instant. */
    GuardState evaluatedTo(Instant later) {
        return new GuardState(later, level, raisedAt, calmSince, clearSince, value, worst);
    }
}
