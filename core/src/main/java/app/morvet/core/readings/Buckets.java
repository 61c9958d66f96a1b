package app.morvet.core.readings;

import java.util.Arrays;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.SortedMap;

/**
 * Cumulative buckets of a histogram.
 *
 * @param bounds upper bounds, ascending; the last is usually infinite
 * @param counts how many were at or under each bound, since the histogram began
 */
public record Buckets(double[] bounds, double[] counts) {
    public static Buckets of(SortedMap<Double, Double> lines) {
        return new Buckets(
                lines.keySet().stream().mapToDouble(Double::doubleValue).toArray(),
                lines.values().stream().mapToDouble(Double::doubleValue).toArray());
    }

    /**
     * What was added since an earlier page. After a restart of the counter (any bucket lower than before), or where the
     * bounds are others, all of it counts as added.
     */
    public Buckets since(Buckets earlier) {
        if (!Arrays.equals(bounds, earlier.bounds)) return this;
        var added = new double[counts.length];
        for (int i = 0; i < counts.length; i++) {
            added[i] = counts[i] - earlier.counts[i];
            if (added[i] < 0) return this;
        }
        return new Buckets(bounds, added);
    }

    /**
     * The value under which a share of what was counted lies, taking the values of a bucket as evenly spread between its
     * bounds. In the last, endless bucket it is that bucket's lower bound.
     *
     * @param share 0 to 1
     * @return empty where nothing was counted
     */
    public OptionalDouble quantile(double share) {
        double whole = counts.length == 0 ? 0 : counts[counts.length - 1];
        if (whole <= 0) return OptionalDouble.empty();
        double wanted = share * whole;
        int at = 0;
        while (at < counts.length - 1 && counts[at] < wanted) at++;
        double low = at == 0 ? Math.min(0, bounds[0]) : bounds[at - 1];
        if (Double.isInfinite(bounds[at])) return OptionalDouble.of(low);
        double before = at == 0 ? 0 : counts[at - 1];
        double inside = counts[at] - before;
        double part = inside <= 0 ? 1 : (wanted - before) / inside;
        return OptionalDouble.of(low + (bounds[at] - low) * part);
    }

    /** {@code 95} for 0.95, {@code 99_9} for 0.999. */
    public static String percent(double share) {
        double percent = Math.round(share * 100_000) / 1000.0;
        var text = percent == Math.rint(percent) ? Long.toString((long) percent) : Double.toString(percent);
        return text.replace('.', '_');
    }

    /** The shares that become measures of their own. */
    public static Map<String, Double> shares() {
        return Map.of("p50", 0.5, "p95", 0.95, "p99", 0.99);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Buckets(var otherBounds, var otherCounts)
                && Arrays.equals(bounds, otherBounds)
                && Arrays.equals(counts, otherCounts);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(bounds) * 31 + Arrays.hashCode(counts);
    }
}
