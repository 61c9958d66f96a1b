package app.morvet.core.readings;

import java.time.Instant;
import java.util.Arrays;

/**
 * The readings of one series in order of event time, as primitive arrays. Immutable by agreement: whoever is given one
 * does not write into its arrays.
 *
 * @param times  microseconds since 1970, ascending; the same instant may occur more than once for counts only
 * @param values as many, finite
 */
public record Readings(long[] times, double[] values) implements Past {
    public static final Readings NONE = new Readings(new long[0], new double[0]);

    private static final int MISSED = 3;
    private static final int MOST_STEPS = 1000;

    /** So many steps on each side say what is usual about a reading, and fewer than so many say nothing. */
    private static final int NEAR = 9;

    private static final int FEWEST = 3;

    public Readings {
        if (times.length != values.length) {
            throw new IllegalArgumentException(times.length + " times but " + values.length + " values");
        }
    }

    public int size() {
        return times.length;
    }

    /** Index of the first reading after {@code micros}. */
    public int firstAfter(long micros) {
        return firstAfter(times, 0, times.length, micros);
    }

    /** The readings at and after {@code from} and before {@code to}. */
    @Override
    public Readings between(Instant from, Instant to) {
        int low = firstAfter(Micros.of(from) - 1);
        int high = Math.max(low, firstAfter(Micros.of(to) - 1));
        return new Readings(Arrays.copyOfRange(times, low, high), Arrays.copyOfRange(values, low, high));
    }

    /** These with one more before them. */
    public Readings behind(long micros, double value) {
        var moreTimes = new long[times.length + 1];
        var moreValues = new double[moreTimes.length];
        moreTimes[0] = micros;
        moreValues[0] = value;
        System.arraycopy(times, 0, moreTimes, 1, times.length);
        System.arraycopy(values, 0, moreValues, 1, values.length);
        return new Readings(moreTimes, moreValues);
    }

    /**
     * The longest time that may lie between one of them and the next or the one before for nothing to be missing there, in microseconds:
     * three times what it usually is about there, before it or after, whichever is more; so where a feed begins to tell more or less often
     * nothing is. A feed is silent after three times what it promised. 0 where there are fewer than two.
     *
     * @param place of which, from 0 to before {@link #size}
     */
    public long longestStep(int place) {
        long usual = Math.max(usualStep(place - NEAR, place), usualStep(place, place + NEAR));
        return MISSED * (usual > 0 ? usual : usualStep());
    }

    /** The median of the times between neighbours from one place to another; 0 of fewer than three, for one of two may be a silence. */
    private long usualStep(int from, int to) {
        int first = Math.max(0, from);
        int last = Math.min(times.length - 1, to);
        var steps = new long[NEAR];
        int count = 0;
        for (int i = first + 1; i <= last; i++) if (times[i] > times[i - 1]) steps[count++] = times[i] - times[i - 1];
        Arrays.sort(steps, 0, count);
        return count < FEWEST ? 0 : steps[(count - 1) / 2];
    }

    /** The median of at most a thousand evenly picked; 0 where there are fewer than two. */
    private long usualStep() {
        var steps = someSteps();
        return steps.length == 0 ? 0 : steps[steps.length / 2];
    }

    /** Between two that lie no further apart nothing is missing, wherever they are; only of the others need it be asked what is usual there. */
    long neverMissed() {
        var steps = someSteps();
        return steps.length == 0 ? 0 : MISSED * steps[steps.length / 100];
    }

    private long[] someSteps() {
        if (times.length < 2) return new long[0];
        int every = Math.ceilDiv(times.length - 1, MOST_STEPS);
        var steps = new long[Math.ceilDiv(times.length - 1, every)];
        for (int i = 0; i < steps.length; i++) steps[i] = times[i * every + 1] - times[i * every];
        Arrays.sort(steps);
        return steps;
    }

    /** Index of the first time after {@code micros} of those from {@code start} to before {@code end}, which are in order; else {@code end}. */
    public static int firstAfter(long[] times, int start, int end, long micros) {
        int low = start;
        int high = end;
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (times[middle] <= micros) low = middle + 1;
            else high = middle;
        }
        return low;
    }
}
