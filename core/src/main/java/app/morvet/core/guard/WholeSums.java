package app.morvet.core.guard;

import org.jspecify.annotations.Nullable;

/**
 * Sums of the first values, as whole numbers of a scale.
 *
 * @param sums one more than there are values
 */
record WholeSums(double scale, long[] sums) {
    private static final double FINEST = 10_000;
    private static final double LARGEST = 1e9;
    /** How far a decimal that was scaled can be off a whole number by rounding, as a share of it. */
    private static final double NEAR = 4e-16;

    /** Above 0 where a scaled value is no whole number; without a division, since each reading of each window comes through here. */
    private static double off(double scaled, double whole) {
        return Math.abs(scaled - whole) - NEAR * Math.abs(whole);
    }

    /** Null where a value is no decimal of four places or is too large. */
    static @Nullable WholeSums of(double[] values) {
        var sums = new long[values.length + 1];
        double scale = 1;
        int i = 0;
        while (i < values.length) {
            double value = values[i];
            double scaled = value * scale;
            double whole = Math.rint(scaled);
            if (off(scaled, whole) <= 0) {
                if (Math.abs(value) > LARGEST) return null;
                sums[i + 1] = sums[i] + (long) whole;
                i++;
            } else {
                // A finer scale, from the beginning again.
                scale *= 10;
                if (scale > FINEST) return null;
                i = 0;
            }
        }
        return new WholeSums(scale, sums);
    }

    /** Of the values from {@code start} to before {@code end}: exact where all are such decimals. */
    static double sum(double[] values, int start, int end) {
        // Of whole numbers the sum is the same at any scale that fits, and most values have two places or fewer.
        for (double scale = 100; scale <= FINEST; scale *= 100) {
            long sum = 0;
            int i = start;
            for (; i < end; i++) {
                double scaled = values[i] * scale;
                double whole = Math.rint(scaled);
                if (off(scaled, whole) > 0 || Math.abs(values[i]) > LARGEST) break;
                sum += (long) whole;
            }
            if (i == end) return sum / scale;
        }
        double sum = 0;
        for (int i = start; i < end; i++) sum += values[i];
        return sum;
    }
}
