package app.morvet.core.readings;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Reads a page of metrics in the text format of OpenMetrics 1.0, to the letter, or in its plain-text ancestor, leniently.
 * What is not as it must be is told with its line and not taken; the rest is taken.
 *
 * <p>Counters bear their total (the suffix {@code _total} is dropped), a gauge its value. Of a histogram the cumulative
 * buckets are given out whole, so that percentiles between two pages can be reckoned ({@link Buckets}). Of a summary
 * each quantile is a gauge {@code NAME_pQ}. Infos and state sets are given out by themselves; {@code _created} lines carry no readings. Values that
 * are NaN or infinite are no readings and are told as such.
 */
public final class OpenMetrics {
    static final int LONGEST_LINE = 16_384;

    private OpenMetrics() {}

    /**
     * @param line   from 1
     * @param name   of the measure, without the suffixes of its sort
     * @param at     when it was measured, or null where the page does not say
     * @param labels in the order of their names
     */
    public record Sample(
            int line,
            String name,
            Sort sort,
            String unit,
            String help,
            Map<String, String> labels,
            double value,
            @Nullable Instant at) {}

    /**
     * The buckets of a histogram at one instant.
     *
     * @param labels  without {@code le}
     * @param growing whether they count since the histogram began, and not what there is now
     */
    public record Histogram(
            String name,
            String unit,
            String help,
            Map<String, String> labels,
            Buckets buckets,
            boolean growing,
            @Nullable Instant at) {}

    /**
     * What a component says of itself.
     *
     * @param line   from 1
     * @param name   without the suffix {@code _info}
     * @param labels what is said
     */
    public record Info(int line, String name, Map<String, String> labels, @Nullable Instant at) {}

    /**
     * What a component is in.
     *
     * @param line   from 1, the first that tells of it
     * @param labels without the one that is named as the state itself
     * @param words  those that the page names, in its order
     * @param word   the one of them that is true
     */
    public record State(
            int line,
            String name,
            String help,
            Map<String, String> labels,
            List<String> words,
            String word,
            @Nullable Instant at) {}

    /** @param line from 1 */
    public record Fault(int line, String words) {}

    /** What a page says. */
    public record Page(
            List<Sample> samples,
            List<Histogram> histograms,
            List<Info> infos,
            List<State> states,
            List<Fault> faults) {
        static Page empty() {
            return new Page(
                    new ArrayList<>(), new ArrayList<>(), new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
        }

        Page inOrder() {
            samples.sort(Comparator.comparingInt(Sample::line));
            faults.sort(Comparator.comparingInt(Fault::line));
            return this;
        }
    }

    /**
     * Reads a page as OpenMetrics 1.0 wants it: each family in one piece, what is said of it before its samples, the
     * points of a metric in one piece and in the order of time, names that cannot be mistaken for those of another family,
     * one space between parts, lines ended by LF, and {@code # EOF} at the end.
     */
    public static Page strict(String text) {
        return new StrictMetrics().read(text);
    }

    /**
     * Reads a page in the plain text format that OpenMetrics came from: families may be mixed, comments and blank lines stand
     * anywhere, parts are apart by blanks and tabs, times are milliseconds (a number small enough to be seconds is taken for
     * seconds), a counter's family bears {@code _total} itself. {@code # UNIT} is understood, and what stands behind
     * {@code # EOF} is not read. A {@code _total} without a TYPE is a counter. Where a family bears the very name that a counter
     * would have without {@code _total}, the counter keeps it.
     */
    public static Page lenient(String text) {
        return new PlainMetrics().read(text);
    }
}
