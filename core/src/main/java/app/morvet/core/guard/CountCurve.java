package app.morvet.core.guard;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * The counted value over time, drawn from the same readings and the same window that the guard judges, so that the curve
 * can never tell another story than the alert.
 */
public final class CountCurve {
    private CountCurve() {}

    /**
     * @param at    an instant
     * @param value the count of the window that ends there
     */
    public record Point(Instant at, double value) {}

    /**
     * Points at {@code from}, every {@code step} after it, and at {@code to}. Where the count at midnight falls between
     * two points, both its last value and the 0 after it are kept, so the day's edge is not drawn as a slope.
     *
     * @param ring must reach back over the window from {@code from}
     */
    public static List<Point> of(CountWindow window, CountRing ring, Instant from, Instant to, Duration step) {
        var points = new ArrayList<Point>();
        for (var at = from; at.isBefore(to); at = at.plus(step)) {
            points.add(point(window, ring, at));
            var next = at.plus(step).isBefore(to) ? at.plus(step) : to;
            if (window instanceof CountWindow.SinceMidnight) {
                var midnight = window.nextDrop(at, ring);
                if (midnight.isBefore(next)) {
                    points.add(point(window, ring, midnight.minusMillis(1)));
                    points.add(point(window, ring, midnight));
                }
            }
        }
        points.add(point(window, ring, to));
        return points;
    }

    private static Point point(CountWindow window, CountRing ring, Instant at) {
        return new Point(at, ring.countBetween(window.openStart(at), at));
    }
}
