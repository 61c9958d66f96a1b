package app.morvet.core.readings;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;

/**
 * The readings of a span folded into equal stretches, so that a year is drawn as quickly as an hour and no short peak is lost.
 *
 * <p>Of a gauge each stretch has the least, the mean and the greatest of its readings. A counter is told as what it grew a minute: between two
 * readings, over its restarts, where it began again at 0. Of a count each stretch has how many there were a minute.
 *
 * @param at       the middle of each stretch, in microseconds since 1970
 * @param least    NaN where nothing was heard
 * @param mean     likewise
 * @param greatest likewise
 * @param reach    how far off the next stretch with readings, or the one before, may be for nothing to be missing between them, in
 *                 microseconds: where stretches are shorter than readings are apart, most are empty. An empty one has that of the one before it
 * @param figures  of the whole span
 */
public record Outline(long[] at, double[] least, double[] mean, double[] greatest, long[] reach, Figures figures) {
    private static final double MINUTE = 60e6;

    /**
     * Of a whole span; all NaN where nothing was heard.
     *
     * @param count how many values it is made of; of counts how many there were
     */
    public record Figures(int count, double least, double mean, double greatest, double last) {
        static final Figures NONE = new Figures(0, Double.NaN, Double.NaN, Double.NaN, Double.NaN);
    }

    /**
     * @param readings  in order of time; of a counter one before the span may be among them
     * @param stretches how many, at least 1
     * @throws IllegalArgumentException where the span is empty
     */
    public static Outline of(Readings readings, Sort sort, Instant from, Instant to, int stretches) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a span begins before it ends");
        var values = sort == Sort.COUNTER ? growth(readings) : readings;
        var span = values.between(from, to);
        long start = Micros.of(from);
        double length = (double) (Micros.of(to) - start) / stretches;
        var at = middles(start, length, stretches);
        return sort == Sort.COUNT
                ? counted(span, at, start, length, Duration.between(from, to))
                : folded(span, at, start, length);
    }

    private static Outline folded(Readings span, long[] at, long start, double length) {
        var least = filled(at.length);
        var mean = filled(at.length);
        var greatest = filled(at.length);
        var reach = new long[at.length];
        long far = span.size() == 0 ? 0 : span.longestStep(0);
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        double all = 0;
        int next = 0;
        for (int i = 0; i < at.length; i++) {
            double end = i + 1 == at.length ? Double.POSITIVE_INFINITY : start + (i + 1) * length;
            double sum = 0;
            double bottom = Double.POSITIVE_INFINITY;
            double top = Double.NEGATIVE_INFINITY;
            int first = next;
            for (; next < span.size() && span.times()[next] < end; next++) {
                double value = span.values()[next];
                sum += value;
                bottom = Math.min(bottom, value);
                top = Math.max(top, value);
            }
            if (next > first) far = Math.max(span.longestStep(first), span.longestStep(next - 1));
            reach[i] = far + (long) length;
            if (next == first) continue;
            least[i] = bottom;
            greatest[i] = top;
            mean[i] = sum / (next - first);
            low = Math.min(low, bottom);
            high = Math.max(high, top);
            all += sum;
        }
        var figures = span.size() == 0
                ? Figures.NONE
                : new Figures(span.size(), low, all / span.size(), high, span.values()[span.size() - 1]);
        return new Outline(at, least, mean, greatest, reach, figures);
    }

    private static Outline counted(Readings span, long[] at, long start, double length, Duration whole) {
        var counts = new double[at.length];
        for (int i = 0; i < span.size(); i++)
            counts[(int) Math.min(at.length - 1, (span.times()[i] - start) / length)] += span.values()[i];
        return counted(counts, at, length, whole);
    }

    /**
     * Of what was counted elsewhere.
     *
     * @param counts how many there were in each of as many equal stretches, at least one
     * @throws IllegalArgumentException where the span is empty
     */
    public static Outline ofCounts(long[] counts, Instant from, Instant to) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a span begins before it ends");
        double length = (double) (Micros.of(to) - Micros.of(from)) / counts.length;
        return counted(
                Arrays.stream(counts).asDoubleStream().toArray(),
                middles(Micros.of(from), length, counts.length),
                length,
                Duration.between(from, to));
    }

    private static long[] middles(long start, double length, int stretches) {
        var at = new long[stretches];
        for (int i = 0; i < stretches; i++) at[i] = start + (long) ((i + 0.5) * length);
        return at;
    }

    /** Nothing heard means that nothing happened, so each stretch has a value. */
    private static Outline counted(double[] counts, long[] at, double length, Duration whole) {
        var rates = Arrays.stream(counts).map(one -> one * MINUTE / length).toArray();
        double all = Arrays.stream(counts).sum();
        var figures = new Figures(
                (int) Math.min(Integer.MAX_VALUE, all),
                Arrays.stream(rates).min().orElse(0),
                all * 60_000 / whole.toMillis(),
                Arrays.stream(rates).max().orElse(0),
                rates[rates.length - 1]);
        var reach = new long[at.length];
        Arrays.fill(reach, (long) length);
        return new Outline(at, rates, rates, rates, reach, figures);
    }

    /** What a counter grew a minute, at the end of each time between two readings. */
    private static Readings growth(Readings counter) {
        int size = Math.max(0, counter.size() - 1);
        var times = new long[size];
        var values = new double[size];
        int kept = 0;
        for (int i = 1; i < counter.size(); i++) {
            long between = counter.times()[i] - counter.times()[i - 1];
            if (between <= 0) continue;
            double grown = counter.values()[i] - counter.values()[i - 1];
            times[kept] = counter.times()[i];
            values[kept++] = (grown < 0 ? counter.values()[i] : grown) * MINUTE / between;
        }
        return new Readings(Arrays.copyOf(times, kept), Arrays.copyOf(values, kept));
    }

    private static double[] filled(int size) {
        var nothing = new double[size];
        Arrays.fill(nothing, Double.NaN);
        return nothing;
    }
}
