package app.morvet.core.readings;

import java.util.Arrays;

/**
 * Readings thinned to what a curve can show: of each piece the least and the greatest stay, in their order, so that no short peak is lost, and
 * between two that lie further apart than readings usually do the curve breaks. It ends with the last reading.
 *
 * @param times  microseconds since 1970, ascending
 * @param values NaN where it breaks
 */
public record Thinned(long[] times, double[] values) {
    /**
     * @param points about how many are wanted, at least 2; fewer readings stay as they are
     */
    public static Thinned of(Readings readings, int points) {
        int piece = readings.size() <= points ? 1 : Math.ceilDiv(readings.size(), points / 2);
        long never = readings.neverMissed();
        var made = new Making(readings);
        int first = 0;
        for (int i = 1; i <= readings.size(); i++) {
            boolean breaks = i < readings.size() && missing(readings, i, never);
            if (i < readings.size() && i - first < piece && !breaks) continue;
            made.extremes(first, i);
            if (breaks) made.gap(i);
            first = i;
        }
        made.last();
        return made.all();
    }

    /** Whether something is missing between a reading and the one before it. */
    private static boolean missing(Readings readings, int place, long never) {
        long step = readings.times()[place] - readings.times()[place - 1];
        if (step <= never) return false;
        long longest = Math.max(readings.longestStep(place - 1), readings.longestStep(place));
        return longest > 0 && step > longest;
    }

    public int size() {
        return times.length;
    }

    private static final class Making {
        private final Readings from;
        private final long[] times;
        private final double[] values;
        private int size;

        Making(Readings from) {
            this.from = from;
            this.times = new long[2 * from.size()];
            this.values = new double[times.length];
        }

        /** Of the readings from {@code start} to before {@code end}. */
        void extremes(int start, int end) {
            int least = start;
            int greatest = start;
            for (int i = start + 1; i < end; i++) {
                if (from.values()[i] < from.values()[least]) least = i;
                if (from.values()[i] > from.values()[greatest]) greatest = i;
            }
            add(from.times()[Math.min(least, greatest)], from.values()[Math.min(least, greatest)]);
            if (least != greatest)
                add(from.times()[Math.max(least, greatest)], from.values()[Math.max(least, greatest)]);
        }

        /** Between a reading and the one before it. */
        void gap(int before) {
            add((from.times()[before - 1] + from.times()[before]) >>> 1, Double.NaN);
        }

        void last() {
            int last = from.size() - 1;
            if (last >= 0 && times[size - 1] < from.times()[last]) add(from.times()[last], from.values()[last]);
        }

        private void add(long at, double value) {
            times[size] = at;
            values[size++] = value;
        }

        Thinned all() {
            return new Thinned(Arrays.copyOf(times, size), Arrays.copyOf(values, size));
        }
    }
}
