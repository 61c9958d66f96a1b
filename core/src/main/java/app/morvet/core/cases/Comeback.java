package app.morvet.core.cases;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Side;
import java.time.Duration;
import java.time.Instant;

/**
 * When trouble that was settled counts as the same trouble come back. A count since midnight stays over its limit all
 * day after the cause is mended, so its alert alone cannot say; what can is that it grows by as much again.
 */
public final class Comeback {
    /** Within this time after settling, an alert on the same subject is the same case reopened; later it is a new one. */
    public static final Duration SAME_CASE = Duration.ofHours(24);

    private Comeback() {}

    /** Whether an alert raised at {@code raisedAt} reopens the case settled at {@code settledAt}. */
    public static boolean reopens(Instant settledAt, Instant raisedAt) {
        return raisedAt.isBefore(settledAt.plus(SAME_CASE));
    }

    /**
     * Whether an alert that was still up when its case was settled has grown enough to call again: by more than the
     * lowest limit of its guard, and by at least one.
     *
     * @param atSettling the value when the case was settled
     * @param value      the value now
     */
    public static boolean grewAgain(Guard guard, double atSettling, double value) {
        return standsOnPast(guard)
                && guard instanceof LimitGuard limit
                && value - atSettling > limit.limits().mildest().low();
    }

    /** Whether a guard counts what has happened: such stays over its limit for a while by itself; of other values none could say that. */
    public static boolean standsOnPast(Guard guard) {
        return guard instanceof LimitGuard limit
                && limit.limits().side() == Side.ABOVE
                && limit.amount().fold() == Amount.Fold.SUM;
    }
}
