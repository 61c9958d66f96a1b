package app.morvet.core.readings;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * The recent readings of one series in order of event time, in primitive arrays. Live evaluation keeps one warm for each
 * series. Mutable and not thread-safe.
 */
public final class ReadingRing {
    private static final int SPARE = 16;

    /** Looks at readings where they lie; it does not write, and keeps neither array. */
    public interface Reader<T extends @Nullable Object> {
        /** @param start index of the first reading, {@code end} the one after the last */
        T read(long[] times, double[] values, int start, int end);
    }

    private long[] times = new long[SPARE];
    private double[] values = new double[SPARE];
    private int start;
    private int end;

    /** Adds a reading. In order it costs nothing much; a late one moves what lies behind it. */
    public void add(Instant at, double value) {
        add(Micros.of(at), value);
    }

    public void add(long micros, double value) {
        if (!Double.isFinite(value)) throw new IllegalArgumentException("a reading is a finite number, was " + value);
        if (end == times.length) makeRoom();
        int place = end;
        while (place > start && times[place - 1] > micros) place--;
        if (place < end) {
            System.arraycopy(times, place, times, place + 1, end - place);
            System.arraycopy(values, place, values, place + 1, end - place);
        }
        times[place] = micros;
        values[place] = value;
        end++;
    }

    /** Where a good part of it has been forgotten the same room will do: less of the processor's caches is gone through. */
    private void makeRoom() {
        int size = end - start;
        int room = size > times.length * 3 / 4 ? times.length * 3 / 2 : times.length;
        var moreTimes = room == times.length ? times : new long[room];
        var moreValues = room == values.length ? values : new double[room];
        System.arraycopy(times, start, moreTimes, 0, size);
        System.arraycopy(values, start, moreValues, 0, size);
        times = moreTimes;
        values = moreValues;
        start = 0;
        end = size;
    }

    /** The time of the newest reading, or {@link Instant#MIN} while there is none. */
    public Instant newest() {
        return end == start ? Instant.MIN : Micros.instant(times[end - 1]);
    }

    /** Whether there is a reading of exactly that instant. */
    public boolean has(long micros) {
        int place = end - 1;
        while (place >= start && times[place] > micros) place--;
        return place >= start && times[place] == micros;
    }

    /**
     * Forgets what lies before {@code at}, but for the one just before: it says what stood there, and where it is the newest,
     * silence is counted from it.
     */
    public void forgetBefore(Instant at) {
        forgetBefore(Micros.of(at));
    }

    public void forgetBefore(long micros) {
        while (start < end - 1 && times[start + 1] < micros) start++;
    }

    public void forget(Instant now, Duration reach) {
        forgetBefore(now.minus(reach));
    }

    /** Forgets all. */
    public void clear() {
        start = 0;
        end = 0;
    }

    public int size() {
        return end - start;
    }

    /** The readings after {@code micros}, one more before them if there is one, copied out. */
    public Readings since(long micros) {
        int from = Math.max(start, Readings.firstAfter(times, start, end, micros) - 1);
        return new Readings(Arrays.copyOfRange(times, from, end), Arrays.copyOfRange(values, from, end));
    }

    /** What is read from the readings, none of which is copied. */
    public <T extends @Nullable Object> T read(Reader<T> reader) {
        return reader.read(times, values, start, end);
    }

    public Readings all() {
        return new Readings(Arrays.copyOfRange(times, start, end), Arrays.copyOfRange(values, start, end));
    }
}
