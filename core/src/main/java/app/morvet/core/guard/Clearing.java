package app.morvet.core.guard;

import java.time.Duration;

/**
 * How an alert ends: the count must be at {@code margin} of the limit or less, and stay there for {@code time}. At the
 * share itself counts as back, so that a limit of 0 can clear at 0.
 *
 * @param margin share of the limit, above 0 and up to 1
 * @param time   0 to one day
 */
public record Clearing(double margin, Duration time) {
    public Clearing {
        if (!(margin > 0 && margin <= 1)) {
            throw new IllegalArgumentException("the clear margin is above 0 % and up to 100 % of the limit, was "
                    + Limits.number(margin * 100) + " %");
        }
        if (time.isNegative() || time.compareTo(Duration.ofDays(1)) > 0) {
            throw new IllegalArgumentException("the clear time is 0 to 24 h, was " + Spans.words(time));
        }
    }

    /** The value at or under which a limit counts as no longer breached. */
    public double line(double limit) {
        return margin * limit;
    }
}
