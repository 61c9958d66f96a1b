package app.morvet.core.batch;

import java.util.Arrays;
import java.util.Comparator;
import java.util.stream.IntStream;

/**
 * How long something may last: a distribution, kept as its quantiles at even shares.
 *
 * @param quantiles seconds at the shares 0, 1/n, 2/n … 1; ascending
 * @param runs      how many runs it was learned from; 0 where it is a guess
 * @param because   of which runs, in words, such as {@code on Mondays}; empty for all
 */
public record Spread(double[] quantiles, int runs, String because) {
    private static final int POINTS = 64;

    /** Nearly all that was seen lasts at most so long; what is longer is left to a tail, since hardly any of it was seen. */
    private static final double NEARLY_ALL = 0.98;

    /** What is left on the average where the tail begins, at least: this share of the median. */
    private static final double LEAST_LEFT = 0.25;

    /** The shape of the tail. With a third, each second more makes half a second more likely to come. */
    private static final double SHAPE = 1.0 / 3;

    public Spread {
        if (quantiles.length < 2) throw new IllegalArgumentException("a spread has two quantiles or more");
        for (int i = 0; i < quantiles.length; i++)
            if (!(quantiles[i] >= 0) || i > 0 && quantiles[i] < quantiles[i - 1])
                throw new IllegalArgumentException("quantiles ascend from nothing");
    }

    /** Always the same. */
    public static Spread exactly(double seconds) {
        return new Spread(new double[] {seconds, seconds}, 0, "");
    }

    /** Anything between two lengths, each as likely. */
    public static Spread between(double least, double most) {
        return new Spread(new double[] {least, most}, 0, "");
    }

    /**
     * Of a weighted sample. A value stands at the middle of its weight (Hazen's plotting position), straight lines between
     * them; of equal values the lighter stand first. The order of the sample changes nothing, not even the last digit.
     *
     * @param values  seconds, in any order, one or more
     * @param weights positive, one for each value
     */
    public static Spread of(double[] values, double[] weights, String because) {
        var order = IntStream.range(0, values.length)
                .boxed()
                .sorted(Comparator.<Integer>comparingDouble(i -> values[i]).thenComparingDouble(i -> weights[i]))
                .mapToInt(Integer::intValue)
                .toArray();
        double whole = 0;
        for (int i : order) whole += weights[i];
        var share = new double[order.length];
        double below = 0;
        for (int i = 0; i < order.length; i++) {
            share[i] = (below + weights[order[i]] / 2) / whole;
            below += weights[order[i]];
        }
        var quantiles = new double[POINTS + 1];
        int at = 0;
        for (int i = 0; i <= POINTS; i++) {
            double wanted = (double) i / POINTS;
            while (at < order.length && share[at] < wanted) at++;
            if (at == 0) quantiles[i] = values[order[0]];
            else if (at == order.length) quantiles[i] = values[order[order.length - 1]];
            else {
                double low = values[order[at - 1]];
                double high = values[order[at]];
                double part = (wanted - share[at - 1]) / (share[at] - share[at - 1]);
                // Rounding may carry it a hair out of where it lies.
                quantiles[i] = Math.clamp(low + part * (high - low), low, high);
            }
        }
        return new Spread(quantiles, values.length, because);
    }

    public boolean known() {
        return runs > 0;
    }

    /** @param share 0 to 1 */
    public double quantile(double share) {
        double place = share * (quantiles.length - 1);
        int below = Math.min((int) place, quantiles.length - 2);
        return quantiles[below] + (place - below) * (quantiles[below + 1] - quantiles[below]);
    }

    public double median() {
        return quantile(0.5);
    }

    /** The share that lasts at most so long, 0 to 1. */
    public double share(double seconds) {
        int n = quantiles.length - 1;
        if (seconds < quantiles[0]) return 0;
        if (seconds >= quantiles[n]) return 1;
        int low = 0;
        int high = n;
        while (high - low > 1) {
            int middle = (low + high) >>> 1;
            if (quantiles[middle] <= seconds) low = middle;
            else high = middle;
        }
        return (low + (seconds - quantiles[low]) / (quantiles[low + 1] - quantiles[low])) / n;
    }

    /**
     * How long it lasts, given that it has lasted for some time. Of a run that has lasted long, little is known from what was
     * seen; so beyond the length that one run in fifty passes, a generalized Pareto distribution goes on (Pickands,
     * <em>Statistical Inference Using Extreme Order Statistics</em>, Annals of Statistics 3(1), 1975). On the average as
     * much is left there as half of what lies over the median, or a quarter of the median if that is more, and half a second
     * more for each second that passes. There is one such distribution whatever has passed, so a second more never changes
     * the outlook by much.
     *
     * <p>A guess that is exact has no tail until it is passed.
     *
     * @param elapsed seconds, 0 or more
     * @param u       even between 0 and 1
     * @return seconds in all, at least {@code elapsed}
     */
    public double beyond(double elapsed, double u) {
        double from = quantile(NEARLY_ALL);
        double survives = 1 - Math.min(u, 1 - 1e-9);
        if (elapsed >= from) return elapsed + left(elapsed, survives);
        double wanted = (elapsed <= 0 ? 1 : 1 - share(elapsed)) * survives;
        boolean exact = runs == 0 && quantiles[0] == quantiles[quantiles.length - 1];
        if (exact || wanted >= 1 - NEARLY_ALL) return Math.max(elapsed, quantile(Math.min(1 - wanted, NEARLY_ALL)));
        return from + left(from, wanted / (1 - NEARLY_ALL));
    }

    /** What of the tail is left after so many seconds, for the share of runs that last at least so long. */
    private double left(double elapsed, double share) {
        double from = quantile(NEARLY_ALL);
        double mean = Math.max(LEAST_LEFT * median(), (from - median()) / 2) + (elapsed - from) / 2;
        return mean * (1 - SHAPE) / SHAPE * (Math.pow(share, -SHAPE) - 1);
    }

    /** From here on a run is long: beyond nearly all that was seen, and by more than a trifle. */
    public double longFrom() {
        return Math.max(quantile(NEARLY_ALL), Math.max(1.2 * median(), median() + 30));
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Spread spread
                && Arrays.equals(quantiles, spread.quantiles)
                && runs == spread.runs
                && because.equals(spread.because);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(quantiles);
    }

    @Override
    public String toString() {
        return "median %.0f s of %d runs%s".formatted(median(), runs, because.isEmpty() ? "" : " " + because);
    }
}
