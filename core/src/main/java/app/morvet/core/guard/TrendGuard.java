package app.morvet.core.guard;

import java.time.Duration;
import java.time.ZoneId;

/**
 * Watches when a projection of a series will cross a target. Its value is how many hours are left until then: 0 when it
 * is there already, infinite when it is not heading there.
 *
 * @param target   the value that must not be crossed
 * @param side     {@link Side#ABOVE} or {@link Side#BELOW}
 * @param lookback the past from which the projection is made: two hours to 60 days
 * @param seasonal whether a daily rhythm is taken out first; needs a lookback of three days or more
 * @param zone     in which the day runs
 * @param limits   hours left; below is bad
 */
public record TrendGuard(
        double target, Side side, Duration lookback, boolean seasonal, ZoneId zone, Limits limits, Terms terms)
        implements Guard {
    public TrendGuard {
        if (!Double.isFinite(target))
            throw new IllegalArgumentException("the value it heads to must be a finite number");
        if (side != Side.ABOVE && side != Side.BELOW) {
            throw new IllegalArgumentException("a trend heads above or below a value");
        }
        if (lookback.compareTo(Duration.ofHours(2)) < 0 || lookback.compareTo(Duration.ofDays(60)) > 0) {
            throw new IllegalArgumentException(
                    "a trend is seen in the last 2 h to 60 days, was " + Spans.words(lookback));
        }
        if (seasonal && lookback.compareTo(Duration.ofDays(3)) < 0) {
            throw new IllegalArgumentException(
                    "a daily rhythm is seen in 3 days or more, was " + Spans.words(lookback));
        }
        if (limits.side() != Side.BELOW) throw new IllegalArgumentException("a horizon alerts below it");
        if (farthest(limits) > 24 * 400) throw new IllegalArgumentException("a horizon is at most 400 days");
        if (limits.mildest().low() <= 0) throw new IllegalArgumentException("a horizon must be above 0");
    }

    private static double farthest(Limits limits) {
        return limits.mildest().low();
    }

    /** The projection is made anew this often, at whole multiples since 1970. */
    public Duration grid() {
        long minutes = Math.max(5, lookback.toMinutes() / 96);
        return Duration.ofMinutes(minutes);
    }

    @Override
    public Guard withLimits(Limits other) {
        return new TrendGuard(target, side, lookback, seasonal, zone, other, terms);
    }

    public TrendGuard withTarget(double other) {
        return new TrendGuard(other, side, lookback, seasonal, zone, limits, terms);
    }

    @Override
    public Duration reach() {
        return terms.noData().after();
    }
}
