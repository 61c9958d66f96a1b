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

    /** How far inside the limit it must be, in per cent of it and without the noise of fractions: {@code 15}. */
    public double inside() {
        return Math.round((1 - margin) * 100_000) / 1000.0;
    }

    /**
     * @param inside how far inside the limit it must be, in per cent of it, 0 to under 100
     * @param time   0 to one day
     */
    public static Clearing inside(double inside, Duration time) {
        if (!(inside >= 0 && inside < 100))
            throw new IllegalArgumentException("an alert clears 0 %% to under 100 %% inside its limit, was %s %%"
                    .formatted(Numbers.exact(inside)));
        return new Clearing(Math.round((100 - inside) * 1000) / 100_000.0, time);
    }
}
