package app.morvet.core.batch;

import java.util.Arrays;

/** Numbers by their keys: the least key first; of equal ones, the least number. Without objects, since it is asked millions of times. */
final class Heap {
    private double[] keys;
    private int[] values;
    private int size;

    Heap(int room) {
        keys = new double[Math.max(1, room)];
        values = new int[keys.length];
    }

    void clear() {
        size = 0;
    }

    boolean isEmpty() {
        return size == 0;
    }

    double topKey() {
        return keys[0];
    }

    void push(double key, int value) {
        if (size == keys.length) {
            keys = Arrays.copyOf(keys, 2 * size);
            values = Arrays.copyOf(values, 2 * size);
        }
        int at = size++;
        while (at > 0) {
            int up = (at - 1) >>> 1;
            if (!less(key, value, keys[up], values[up])) break;
            keys[at] = keys[up];
            values[at] = values[up];
            at = up;
        }
        keys[at] = key;
        values[at] = value;
    }

    int pop() {
        int top = values[0];
        double key = keys[--size];
        int value = values[size];
        int at = 0;
        while (true) {
            int child = 2 * at + 1;
            if (child >= size) break;
            if (child + 1 < size && less(keys[child + 1], values[child + 1], keys[child], values[child])) child++;
            if (!less(keys[child], values[child], key, value)) break;
            keys[at] = keys[child];
            values[at] = values[child];
            at = child;
        }
        keys[at] = key;
        values[at] = value;
        return top;
    }

    private static boolean less(double key, int value, double other, int otherValue) {
        return key < other || key == other && value < otherValue;
    }
}
