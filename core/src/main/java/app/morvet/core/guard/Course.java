package app.morvet.core.guard;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import java.time.Instant;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What a guard measures on one series over a stretch of time: a step function, given by the instants at which it may
 * change. It does not depend on the limits (but where each reading is held against a limit that is none of above or
 * below), so one course serves every position of a limit that is being dragged.
 */
public final class Course {
    /** What is known at a point. */
    public enum Known {
        /** There is a value. */
        YES,
        /** Too little was heard to say. */
        NO,
        /** Nothing was heard for so long that it means something. */
        SILENT,
        /** The guard does not apply at this time. */
        OFF
    }

    private static final Known[] KNOWN = Known.values();

    private long[] times;
    private double[] values;
    private byte[] known;
    /** Where limits were applied to each reading: the worst breached and the worst held, as levels; else null. */
    private byte @Nullable [] breached;

    private byte @Nullable [] held;
    private int size;

    Course(int room) {
        times = new long[Math.max(4, room)];
        values = new double[times.length];
        known = new byte[times.length];
    }

    void add(long at, double value, Known what) {
        if (size == times.length) {
            times = Arrays.copyOf(times, size * 2);
            values = Arrays.copyOf(values, size * 2);
            known = Arrays.copyOf(known, size * 2);
            if (breached != null) breached = Arrays.copyOf(breached, size * 2);
            if (held != null) held = Arrays.copyOf(held, size * 2);
        }
        times[size] = at;
        values[size] = value;
        known[size] = (byte) what.ordinal();
        size++;
    }

    void add(long at, double value, Known what, int breach, int hold) {
        add(at, value, what);
        if (breached == null) breached = new byte[times.length];
        if (held == null) held = new byte[times.length];
        breached[size - 1] = (byte) breach;
        held[size - 1] = (byte) hold;
    }

    public int size() {
        return size;
    }

    public Instant at(int index) {
        return Micros.instant(times[index]);
    }

    public long micros(int index) {
        return times[index];
    }

    /** NaN where nothing is known. */
    public double value(int index) {
        return values[index];
    }

    public Known known(int index) {
        return KNOWN[known[index]];
    }

    /** 0 none, 1 warning, 2 critical; -1 where the value itself is held against the limits. */
    int breached(int index) {
        return breached == null ? -1 : breached[index];
    }

    int held(int index) {
        return held == null ? -1 : held[index];
    }

    /** The value at an instant: that of the last point at or before it; NaN before the first. */
    public double valueAt(Instant at) {
        int after = Readings.firstAfter(times, 0, size, Micros.of(at));
        return after == 0 ? Double.NaN : values[after - 1];
    }
}
