package app.morvet.core.messages;

import java.util.Arrays;
import java.util.OptionalDouble;

/**
 * Delays from entry to delivery, counted in fixed steps, so that those of many spans and senders can be added up. Each
 * step is a quarter wider than the one before, so a percentile told from them is off by a quarter at most.
 *
 * @param counts of each step; step 0 is under 10 ms, the last is endless
 */
public record Delays(int[] counts) {
    public static final int STEPS = 72;
    private static final double FIRST = 0.01;
    private static final double GROWTH = 1.25;

    public Delays {
        if (counts.length != STEPS)
            throw new IllegalArgumentException("%d steps, were %d".formatted(STEPS, counts.length));
    }

    public static Delays none() {
        return new Delays(new int[STEPS]);
    }

    /** @param seconds of single messages, each 0 or more */
    public static Delays of(double... seconds) {
        var counts = new int[STEPS];
        for (double one : seconds) counts[step(one)]++;
        return new Delays(counts);
    }

    private static int step(double seconds) {
        if (!(seconds >= 0)) throw new IllegalArgumentException("a delay is 0 s or more, was " + seconds);
        if (seconds < FIRST) return 0;
        return Math.clamp(1 + (int) Math.floor(Math.log(seconds / FIRST) / Math.log(GROWTH)), 1, STEPS - 1);
    }

    public Delays plus(Delays other) {
        var sum = counts.clone();
        for (int i = 0; i < STEPS; i++) sum[i] += other.counts[i];
        return new Delays(sum);
    }

    /** The counts up to the last that is not 0: most delays lie in the first third of the steps. */
    public int[] shortCounts() {
        int length = STEPS;
        while (length > 0 && counts[length - 1] == 0) length--;
        return Arrays.copyOf(counts, length);
    }

    public long size() {
        long sum = 0;
        for (int count : counts) sum += count;
        return sum;
    }

    /**
     * The delay, in seconds, under which a share of them lies.
     *
     * @param share 0 to 1
     * @return empty where there are none
     */
    public OptionalDouble quantile(double share) {
        double whole = size();
        if (whole == 0) return OptionalDouble.empty();
        double wanted = share * whole;
        double before = 0;
        for (int i = 0; i < STEPS; i++) {
            if (counts[i] > 0 && before + counts[i] >= wanted) {
                double low = i == 0 ? 0 : FIRST * Math.pow(GROWTH, i - 1);
                double high = FIRST * Math.pow(GROWTH, i);
                return OptionalDouble.of(low + (high - low) * Math.max(0, wanted - before) / counts[i]);
            }
            before += counts[i];
        }
        return OptionalDouble.of(FIRST * Math.pow(GROWTH, STEPS - 1));
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Delays(var others) && Arrays.equals(counts, others);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(counts);
    }
}
