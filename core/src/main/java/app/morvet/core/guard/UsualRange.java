package app.morvet.core.guard;

import app.morvet.core.readings.Past;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What is usual for one hour of one weekday: the median of the readings of that hour in the weeks before, and their
 * spread by the median absolute deviation. Both stay put while less than half of what they learned from was trouble
 * (Hampel, <em>The Influence Curve and Its Role in Robust Estimation</em>, JASA 69, 1974).
 *
 * <p>An hour of which little was heard would take a few odd readings, or one bad week of two, for usual. It borrows, until there
 * is enough: first from the hours beside it in the same weeks, then from the same hour of all days.
 *
 * @param middle in the unit of the measure
 * @param spread about one standard deviation of undisturbed values; never 0
 * @param weeks  in how many weeks something was heard in this hour
 * @param source from which hours it was learned
 */
public record UsualRange(double middle, double spread, int weeks, Source source) {
    /** From which hours a usual range was learned. */
    public enum Source {
        SAME_HOUR(""),
        HOURS_BESIDE("little was heard in this hour, so the hours beside it count, too"),
        ALL_DAYS("little was heard in this hour, so the same hour of all days counts, too");

        private final String words;

        Source(String words) {
            this.words = words;
        }

        /** What a reader of the band should know of it; empty where there is nothing to say. */
        public String words() {
            return words;
        }
    }

    private static final int FEWEST_WEEKS = 2;

    /** Of fewer weeks one in trouble would be half, and the range would tear open. */
    private static final int ROBUST_WEEKS = 3;

    private static final int FEWEST_A_WEEK = 3;

    /** With fewer readings than this the spread of an hour is mostly chance. */
    private static final int ENOUGH = 12;

    /** With fewer than this, of whatever hours, nothing is usual. */
    private static final int FEWEST = 6;

    /** A value that hardly ever moves would have no spread at all; a hundredth of it is taken instead. */
    private static final double NARROWEST = 0.01;

    /** Readings as they are gathered. */
    private static final class Sample {
        private double[] values = new double[256];
        private int size;

        boolean add(Past past, ZonedDateTime hour) {
            var start = hour.toInstant();
            var readings = past.between(start, start.plus(1, ChronoUnit.HOURS));
            if (size + readings.size() > values.length) values = Arrays.copyOf(values, (size + readings.size()) * 2);
            System.arraycopy(readings.values(), 0, values, size, readings.size());
            size += readings.size();
            return readings.size() >= FEWEST_A_WEEK;
        }

        UsualRange range(int weeks, Source source) {
            var all = Arrays.copyOf(values, size);
            double middle = Statistics.median(all);
            double spread = Math.max(Statistics.spread(all, middle), Math.max(NARROWEST * Math.abs(middle), 1e-9));
            return new UsualRange(middle, spread, weeks, source);
        }
    }

    /** The start of the hour in which an instant lies. */
    public static Instant hourOf(Instant at, ZoneId zone) {
        return at.atZone(zone).truncatedTo(ChronoUnit.HOURS).toInstant();
    }

    /**
     * Learns the usual range of an hour from the same hour in the weeks before it, and from others where that is too little.
     *
     * @param hour its start
     * @return null where fewer than two of those weeks, or days, were heard
     */
    public static @Nullable UsualRange learn(Past past, Instant hour, int weeks, ZoneId zone) {
        var sample = new Sample();
        var start = hour.atZone(zone);
        int heard = 0;
        for (int week = 1; week <= weeks; week++) if (sample.add(past, start.minusWeeks(week))) heard++;
        int robust = Math.min(weeks, ROBUST_WEEKS);
        if (heard >= robust && sample.size >= ENOUGH) return sample.range(heard, Source.SAME_HOUR);
        // What comes now are dozens of hours; they are asked for at once.
        var whole = past.between(start.minusWeeks(weeks).minusHours(1).toInstant(), hour);
        int beside = 0;
        for (int week = 1; week <= weeks; week++) {
            boolean before = sample.add(whole, start.minusWeeks(week).minusHours(1));
            boolean after = sample.add(whole, start.minusWeeks(week).plusHours(1));
            if (before || after) beside++;
        }
        if (Math.max(heard, beside) >= robust && sample.size >= ENOUGH) return sample.range(heard, Source.HOURS_BESIDE);
        int days = 0;
        for (int day = 1; day < weeks * 7; day++) if (day % 7 != 0 && sample.add(whole, start.minusDays(day))) days++;
        boolean known = Math.max(days, Math.max(heard, beside)) >= FEWEST_WEEKS && sample.size >= FEWEST;
        return known ? sample.range(heard, Source.ALL_DAYS) : null;
    }

    /** The edge of what is usual that lies so many spreads below the middle or, negative, above it. */
    public double edge(double spreads) {
        return middle - spreads * spread;
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
