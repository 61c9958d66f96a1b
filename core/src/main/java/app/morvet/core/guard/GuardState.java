package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What an evaluation has to remember of one guard on one series. Small on purpose: with the readings it is all that a
 * restart needs.
 *
 * @param evaluatedTo everything up to and at this instant has been judged
 * @param known       whether enough was heard at {@code evaluatedTo} to say anything
 * @param level       the severity of the raised alert, or null while there is none
 * @param raisedAt    when that alert was raised, or null
 * @param calmSince   since when the value is back within the clear margin of {@code level}, or null
 * @param clearSince  since when it is back within the clear margin of every limit, or null; never before calmSince
 * @param value       the value at {@code evaluatedTo}; NaN while there is none
 * @param worst       the worst value since the alert was raised; NaN while there is none
 * @param flaps       whether the alert comes and goes and is held up as one
 * @param raises      when the latest alerts were raised, as many as damping looks at
 */
public record GuardState(
        Instant evaluatedTo,
        boolean known,
        @Nullable Severity level,
        @Nullable Instant raisedAt,
        @Nullable Instant calmSince,
        @Nullable Instant clearSince,
        double value,
        double worst,
        boolean flaps,
        List<Instant> raises) {
    public GuardState {
        raises = List.copyOf(raises);
    }

    /** Nothing known, nothing raised. */
    public static GuardState startingAt(Instant at) {
        return new GuardState(at, false, null, null, null, null, Double.NaN, Double.NaN, false, List.of());
    }

    /** What the guard says of its series to a combination. */
    public Truth truth() {
        if (level != null) return Truth.TRUE;
        return known ? Truth.FALSE : Truth.UNKNOWN;
    }

    /**
     * Whether another says the same but for the instant up to which it was judged, and for the value where nothing is raised: after
     * a restart the guard would go on from it alike.
     */
    public boolean saysTheSameAs(GuardState other) {
        return level == other.level
                && known == other.known
                && (level == null || Double.compare(value, other.value) == 0)
                && Objects.equals(calmSince, other.calmSince)
                && Objects.equals(clearSince, other.clearSince);
    }

    /** Nothing raised, another value. */
    GuardState calmAt(Instant later, double other) {
        return new GuardState(later, true, null, null, null, null, other, Double.NaN, false, raises);
    }

    /** The same, with nothing new up to a later instant. */
    GuardState evaluatedTo(Instant later) {
        return new GuardState(later, known, level, raisedAt, calmSince, clearSince, value, worst, flaps, raises);
    }
}
