package app.morvet.core.guard;

import java.util.Arrays;

/** The few robust statistics that guards are made of. */
public final class Statistics {
    /** Makes the median absolute deviation of normal values estimate their standard deviation. */
    public static final double NORMAL = 1.4826;

    private Statistics() {}

    /**
     * The sample quantile of definition 7 of Hyndman &amp; Fan, <em>Sample Quantiles in Statistical Packages</em>, The
     * American Statistician 50(4), 1996, which is the default of R.
     *
     * @param sorted ascending, at least one
     * @param share  0 to 1
     */
    public static double quantile(double[] sorted, double share) {
        if (sorted.length == 0) throw new IllegalArgumentException("no values have no quantile");
        double place = share * (sorted.length - 1);
        int below = (int) Math.floor(place);
        int above = Math.min(below + 1, sorted.length - 1);
        return sorted[below] + (place - below) * (sorted[above] - sorted[below]);
    }

    /** Of values in any order; at least one. */
    public static double median(double[] values) {
        var sorted = values.clone();
        Arrays.sort(sorted);
        return quantile(sorted, 0.5);
    }

    /** The median of the absolute distances from {@code middle}, times {@link #NORMAL}, as R's {@code mad}. */
    public static double spread(double[] values, double middle) {
        var distances = new double[values.length];
        for (int i = 0; i < values.length; i++) distances[i] = Math.abs(values[i] - middle);
        return NORMAL * median(distances);
    }
}
