package app.morvet.bench;

import java.util.ArrayList;
import java.util.List;

/**
 * What is measured and its limit, one after the other in each round, so that whatever else the machine does happens to both.
 *
 * @param measured median of what was measured
 * @param limit    median of the limit
 * @param ratio    median of the ratios of the rounds, measured to limit
 * @param low      their lower quartile
 * @param high     their upper quartile
 */
record InTurn(double measured, double limit, double ratio, double low, double high) {
    static final int ROUNDS = 7;

    /** Measures once: milliseconds, or so many a second. */
    interface Measure {
        double once() throws Exception;
    }

    /** @param warmUps rounds that are not counted */
    static InTurn of(int warmUps, Measure measured, Measure limit) throws Exception {
        var found = new ArrayList<Double>();
        var limits = new ArrayList<Double>();
        var ratios = new ArrayList<Double>();
        for (int round = -warmUps; round < ROUNDS; round++) {
            double bound = limit.once();
            double one = measured.once();
            if (round < 0) continue;
            found.add(one);
            limits.add(bound);
            ratios.add(one / bound);
        }
        return new InTurn(
                quantile(found, 0.5),
                quantile(limits, 0.5),
                quantile(ratios, 0.5),
                quantile(ratios, 0.25),
                quantile(ratios, 0.75));
    }

    static Measure millis(Runnable work) {
        return () -> {
            long begin = System.nanoTime();
            work.run();
            return (System.nanoTime() - begin) / 1e6;
        };
    }

    /** {@code ratio 0.25 (0.23 to 0.26 in half of 7 rounds)}. */
    String words() {
        return "ratio %s (%s to %s in half of %d rounds)".formatted(figure(ratio), figure(low), figure(high), ROUNDS);
    }

    private static String figure(double value) {
        return (value < 1 ? "%.2f" : value < 100 ? "%.1f" : "%.0f").formatted(value);
    }

    /** Straight lines between the sorted values. */
    static double quantile(List<Double> values, double share) {
        var sorted = values.stream().sorted().toList();
        double place = share * (sorted.size() - 1);
        int below = (int) place;
        int above = Math.min(below + 1, sorted.size() - 1);
        return sorted.get(below) + (place - below) * (sorted.get(above) - sorted.get(below));
    }
}
