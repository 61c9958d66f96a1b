package app.morvet.core.guard;

import app.morvet.core.readings.Readings;
import java.util.Arrays;

/**
 * Instants at which a value may change, sorted, each once, after the first. Readings are in order already, so what is made
 * of them is merged in; the few others are sorted in the end.
 */
final class Instants {
    private final long from;
    private final long to;
    private long[] merged;
    private int size = 1;
    private long[] loose = new long[16];
    private int few;

    Instants(long from, long to) {
        this.from = from;
        this.to = to;
        this.merged = new long[] {from};
    }

    void add(long at) {
        if (at <= from || at > to) return;
        if (few == loose.length) loose = Arrays.copyOf(loose, few * 2);
        loose[few++] = at;
    }

    /** All times in the readings, moved by a distance. */
    void addAll(Readings readings, long moved) {
        merge(readings.times(), readings.firstAfter(from - moved), readings.firstAfter(to - moved), moved);
    }

    private void merge(long[] run, int low, int high, long moved) {
        if (low >= high) return;
        var both = new long[size + high - low];
        int kept = 0;
        int left = 0;
        int right = low;
        while (left < size || right < high) {
            long next;
            if (right == high || left < size && merged[left] <= run[right] + moved) next = merged[left++];
            else next = run[right++] + moved;
            if (kept == 0 || both[kept - 1] != next) both[kept++] = next;
        }
        merged = both;
        size = kept;
    }

    /** Where silence begins to mean something, after a reading that no other follows in time; and where it ends. */
    void addSilences(Readings readings, long after) {
        int low = Math.max(0, readings.firstAfter(from - after) - 1);
        int high = readings.firstAfter(to - after);
        for (int i = low; i < high; i++) {
            boolean last = i + 1 >= readings.size();
            if (!last && readings.times()[i + 1] <= readings.times()[i] + after) continue;
            add(readings.times()[i] + after);
            if (!last) add(readings.times()[i + 1]);
        }
    }

    long[] sorted() {
        Arrays.sort(loose, 0, few);
        merge(loose, 0, few, 0);
        return size == merged.length ? merged : Arrays.copyOf(merged, size);
    }
}
