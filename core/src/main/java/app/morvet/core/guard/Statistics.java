package app.morvet.core.guard;

import java.util.Arrays;
import org.apache.commons.numbers.arrays.Selection;

/** The few robust statistics that guards are made of. */
public final class Statistics {
    /** Makes the median absolute deviation of normal values estimate their standard deviation. */
    public static final double NORMAL = 1.4826;

    private Statistics() {}

    /**
     * The sample quantile of definition 7 of Hyndman &amp; Fan, <em>Sample Quantiles in Statistical Packages</em>, The
     * American Statistician 50(4), 1996, which is the default of R.
     *
     * @param sorted ascending, at least one; it is enough that what stands on either side of the share is in its {@link #place}
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
        var some = values.clone();
        place(some);
        return quantile(some, 0.5);
    }

    /**
     * Puts the values of the middle, and of some other places, where they would stand if all were sorted; the others stand in any
     * order between them.
     *
     * @param at further places, 0 to the number of values less one
     */
    static void place(double[] values, int... at) {
        var places = Arrays.copyOf(at, at.length + 2);
        places[at.length] = (values.length - 1) / 2;
        places[at.length + 1] = Math.min((values.length - 1) / 2 + 1, values.length - 1);
        Selection.select(values, places);
    }

    /** The median of the absolute distances from {@code middle}, times {@link #NORMAL}, as R's {@code mad}. */
    public static double spread(double[] values, double middle) {
        var distances = new double[values.length];
        for (int i = 0; i < values.length; i++) distances[i] = Math.abs(values[i] - middle);
        return NORMAL * median(distances);
    }
}
