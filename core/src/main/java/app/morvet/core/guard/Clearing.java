package app.morvet.core.guard;

import java.time.Duration;

/**
 * How an alert ends: the value must be back within {@code margin} of the limit, and stay there for {@code time}.
 *
 * @param margin share of the limit, above 0 and up to 1; what that means on each side says {@link Limit#heldBy}
 * @param time   0 to one day
 */
public record Clearing(double margin, Duration time) {
    /** The margin of guards that say nothing else. */
    public static final double USUAL_MARGIN = 0.85;

    public Clearing {
        if (!(margin > 0 && margin <= 1)) {
            throw new IllegalArgumentException("the clear margin is above 0 % and up to 100 % of the limit, was "
                    + Numbers.exact(margin * 100) + " %");
        }
        if (time.isNegative() || time.compareTo(Duration.ofDays(1)) > 0) {
            throw new IllegalArgumentException("the clear time is 0 to 24 h, was " + Spans.words(time));
        }
    }

    /** In per cent, without the noise of fractions: {@code 85}. */
    public double percent() {
        return Math.round(margin * 100_000) / 1000.0;
    }
}
