package app.morvet.core.guard;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;

/**
 * The recent counts of one series, in order of event time, as primitive arrays with running totals, so that the count of
 * any window costs two binary searches. Live evaluation keeps one warm for each series; a replay fills one from history.
 * Mutable and not thread-safe.
 */
public final class CountRing {
    private static final int SPARE = 64;

    private long[] times = new long[SPARE];
    /** {@code totals[i]} is the sum of the first {@code i} counts. */
    private double[] totals = new double[SPARE + 1];

    private int size;

    /**
     * Adds a count. In order it costs nothing much; a late one moves what lies behind it.
     *
     * @param at    event time, kept to the microsecond
     * @param count finite, 0 or more
     */
    public void add(Instant at, double count) {
        if (!Double.isFinite(count) || count < 0) {
            throw new IllegalArgumentException("a count is finite and 0 or more, was " + count);
        }
        if (size == times.length) {
            times = Arrays.copyOf(times, size * 2);
            totals = Arrays.copyOf(totals, size * 2 + 1);
        }
        long micros = micros(at);
        int place = firstAfter(micros);
        System.arraycopy(times, place, times, place + 1, size - place);
        times[place] = micros;
        for (int i = size; i >= place; i--) totals[i + 1] = totals[i] + count;
        size++;
    }

    /** The sum of the counts after {@code openStart} and not after {@code end}. */
    public double countBetween(Instant openStart, Instant end) {
        return totals[firstAfter(micros(end))] - totals[firstAfter(micros(openStart))];
    }

    /** The time of the first reading after {@code at}, or {@link Instant#MAX}. */
    public Instant nextAfter(Instant at) {
        int place = firstAfter(micros(at));
        return place == size ? Instant.MAX : instant(times[place]);
    }

    /** The time of the newest reading, or {@link Instant#MIN} while there is none. */
    public Instant newest() {
        return size == 0 ? Instant.MIN : instant(times[size - 1]);
    }

    /** Forgets what lies more than {@code reach} before {@code now}. */
    public void forget(Instant now, Duration reach) {
        int gone = firstAfter(micros(now.minus(reach)) - 1);
        if (gone == 0) return;
        double before = totals[gone];
        System.arraycopy(times, gone, times, 0, size - gone);
        for (int i = gone; i <= size; i++) totals[i - gone] = totals[i] - before;
        size -= gone;
    }

    public int size() {
        return size;
    }

    /** Index of the first reading after {@code micros}; times may repeat, so a plain binary search will not do. */
    private int firstAfter(long micros) {
        int low = 0;
        int high = size;
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (times[middle] <= micros) low = middle + 1;
            else high = middle;
        }
        return low;
    }

    private static long micros(Instant at) {
        return Math.addExact(Math.multiplyExact(at.getEpochSecond(), 1_000_000L), at.getNano() / 1000);
    }

    private static Instant instant(long micros) {
        return Instant.ofEpochSecond(Math.floorDiv(micros, 1_000_000L), Math.floorMod(micros, 1_000_000L) * 1000L);
    }
}
