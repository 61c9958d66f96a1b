package app.morvet.rules.guards;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeMap;
import java.util.function.LongUnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.LongStream;

/**
 * Some of what one transaction stored, with what tells nodes whether they want it.
 *
 * @param bits   of the slices of all components that it is about; {@link #ALL} where that is not known
 * @param of     series, or components of failed messages, one for each reading or failure
 * @param at     microseconds since 1970
 * @param values none of failed messages
 */
record Slice(long bits, long[] of, long[] at, double[] values) {
    static final long ALL = -1;

    /** Less is not worth cutting: it is read as a whole by all who want some of it. */
    static final int CUT_FROM = 500;

    /**
     * Cuts what was stored, in its order.
     *
     * @param bitOf gives the slice of one of {@code of}
     */
    static List<Slice> cut(long[] of, long[] at, double[] values, LongUnaryOperator bitOf) {
        var bits = LongStream.of(of).map(bitOf).toArray();
        if (of.length < CUT_FROM)
            return List.of(new Slice(LongStream.of(bits).reduce(0, (one, other) -> one | other), of, at, values));
        var byBits = new TreeMap<Long, IntStream.Builder>();
        for (int i = 0; i < of.length; i++)
            byBits.computeIfAbsent(bits[i], none -> IntStream.builder()).add(i);
        var slices = new ArrayList<Slice>();
        byBits.forEach((bit, some) -> {
            int[] rows = some.build().toArray();
            slices.add(new Slice(
                    bit,
                    Arrays.stream(rows).mapToLong(row -> of[row]).toArray(),
                    Arrays.stream(rows).mapToLong(row -> at[row]).toArray(),
                    values.length == 0
                            ? values
                            : Arrays.stream(rows)
                                    .mapToDouble(row -> values[row])
                                    .toArray()));
        });
        return slices;
    }
}
