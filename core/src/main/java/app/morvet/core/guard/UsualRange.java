package app.morvet.core.guard;

import app.morvet.core.readings.Past;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What is usual for one hour of one weekday: the median of the readings of that hour in the weeks before, and their
 * spread by the median absolute deviation. Both stay put while less than half of what they learned from was trouble
 * (Hampel, <em>The Influence Curve and Its Role in Robust Estimation</em>, JASA 69, 1974).
 *
 * @param middle in the unit of the measure
 * @param spread about one standard deviation of undisturbed values; never 0
 * @param weeks  in how many weeks something was heard in this hour
 */
public record UsualRange(double middle, double spread, int weeks) {
    private static final int FEWEST_WEEKS = 2;
    private static final int FEWEST_A_WEEK = 3;
    /** A value that hardly ever moves would have no spread at all; a hundredth of it is taken instead. */
    private static final double NARROWEST = 0.01;

    /** The start of the hour in which an instant lies. */
    public static Instant hourOf(Instant at, ZoneId zone) {
        return at.atZone(zone).truncatedTo(ChronoUnit.HOURS).toInstant();
    }

    /**
     * Learns the usual range of an hour from the same hour in the weeks before it.
     *
     * @param hour its start
     * @return null where fewer than two of those weeks were heard
     */
    public static @Nullable UsualRange learn(Past past, Instant hour, int weeks, ZoneId zone) {
        var values = new double[256];
        int size = 0;
        int heard = 0;
        for (int week = 1; week <= weeks; week++) {
            var start = hour.atZone(zone).minusWeeks(week).toInstant();
            var readings = past.between(start, start.plus(1, ChronoUnit.HOURS));
            if (readings.size() < FEWEST_A_WEEK) continue;
            heard++;
            if (size + readings.size() > values.length) values = Arrays.copyOf(values, (size + readings.size()) * 2);
            System.arraycopy(readings.values(), 0, values, size, readings.size());
            size += readings.size();
        }
        if (heard < FEWEST_WEEKS) return null;
        values = Arrays.copyOf(values, size);
        double middle = Statistics.median(values);
        double spread = Math.max(Statistics.spread(values, middle), Math.max(NARROWEST * Math.abs(middle), 1e-9));
        return new UsualRange(middle, spread, heard);
    }

    /** How many spreads a value lies off on the bad side; negative on the other. */
    public double off(double value, Side side) {
        double off = (value - middle) / spread;
        return switch (side) {
            case ABOVE -> off;
            case BELOW -> -off;
            case OUTSIDE, EQUAL -> Math.abs(off);
        };
    }
}
