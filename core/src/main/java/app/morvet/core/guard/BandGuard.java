package app.morvet.core.guard;

import java.time.Duration;
import java.time.ZoneId;

/**
 * Watches whether readings are usual for this hour of this weekday. Each reading is told as its distance from the usual
 * middle, in usual spreads ({@link UsualRange}); the value is the distance that the given share of the window's readings
 * reach or pass.
 *
 * @param window  the readings judged together: one minute to one day
 * @param share   of them, above 0 and up to 1
 * @param side    {@link Side#ABOVE}, {@link Side#BELOW} or {@link Side#OUTSIDE} the usual range
 * @param weeks   how many weeks it learns from: 2 to 12
 * @param zone    whose weeks and hours
 * @param limits  how wide the usual range is, in spreads; above is bad
 */
public record BandGuard(Duration window, double share, Side side, int weeks, ZoneId zone, Limits limits, Terms terms)
        implements Guard {
    public BandGuard {
        if (window.compareTo(Duration.ofMinutes(1)) < 0 || window.compareTo(Duration.ofDays(1)) > 0) {
            throw new IllegalArgumentException("the window is 1 min to 24 h long, was " + Spans.words(window));
        }
        if (!(share > 0 && share <= 1))
            throw new IllegalArgumentException("a share of readings is above 0 and up to 100 %");
        if (side == Side.EQUAL) throw new IllegalArgumentException("a band is left above, below or on both sides");
        if (weeks < 2 || weeks > 12)
            throw new IllegalArgumentException("a band is learned from 2 to 12 weeks, was " + weeks);
        if (limits.side() != Side.ABOVE)
            throw new IllegalArgumentException("a width of the usual range is breached above it");
        if (limits.mildest().low() <= 0) throw new IllegalArgumentException("a width of the usual range is above 0");
    }

    @Override
    public Guard withLimits(Limits other) {
        return new BandGuard(window, share, side, weeks, zone, other, terms);
    }

    @Override
    public Duration reach() {
        return window.compareTo(terms.noData().after()) > 0
                ? window
                : terms.noData().after();
    }
}
