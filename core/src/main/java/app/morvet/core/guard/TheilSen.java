package app.morvet.core.guard;

/**
 * A robust straight line through points: its slope is the median of the slopes between all pairs (Theil 1950, Sen 1968),
 * which up to 29 % of wild points cannot pull away. The interval of the slope is Sen's, from the variance of Kendall's
 * statistic.
 *
 * @param slope     per unit of x
 * @param low       lower end of the interval in which the slope lies with 95 % confidence
 * @param high      upper end
 * @param intercept the median of {@code y - slope * x}
 */
public record TheilSen(double slope, double low, double high, double intercept) {
    private static final double NORMAL_975 = 1.959963984540054;

    /**
     * @param x ascending, without repeats; at least 2
     * @param y as many
     */
    public static TheilSen of(double[] x, double[] y) {
        int n = x.length;
        if (n < 2 || y.length != n)
            throw new IllegalArgumentException("a line needs two points or more, and as many y as x");
        var slopes = new double[n * (n - 1) / 2];
        int count = 0;
        for (int i = 0; i < n; i++) {
            for (int j = i + 1; j < n; j++) slopes[count++] = (y[j] - y[i]) / (x[j] - x[i]);
        }
        double reach = NORMAL_975 * Math.sqrt(n * (n - 1.0) * (2.0 * n + 5) / 18);
        int lower = Math.clamp((int) Math.rint((count - reach) / 2) - 1, 0, count - 1);
        int upper = Math.clamp((int) Math.rint((count + reach) / 2), 0, count - 1);
        Statistics.place(slopes, lower, upper);
        double slope = Statistics.quantile(slopes, 0.5);
        var rests = new double[n];
        for (int i = 0; i < n; i++) rests[i] = y[i] - slope * x[i];
        return new TheilSen(slope, slopes[lower], slopes[upper], Statistics.median(rests));
    }
}
