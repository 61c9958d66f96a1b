package app.morvet.core.readings;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Reads a page in the text format of OpenMetrics 1.0 (and of its plainer ancestor without {@code # EOF}). A line that
 * cannot be read is told with its number and the rest is still taken.
 *
 * <p>Counters bear their total (the suffix {@code _total} is dropped), a gauge its value. Of a histogram the cumulative
 * buckets are given out whole, so that percentiles between two pages can be reckoned ({@link Buckets}). Of a summary
 * each quantile is a gauge {@code NAME_pQ}. Info, state sets and {@code _created} lines carry no readings. Values that
 * are NaN or infinite are no readings and are told as such.
 */
public final class OpenMetrics {
    private static final int LONGEST_LINE = 16_384;

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
     * @param labels without {@code le}
     */
    public record Histogram(
            String name, String unit, String help, Map<String, String> labels, Buckets buckets, @Nullable Instant at) {}

    /** @param line from 1 */
    public record Fault(int line, String words) {}

    /** What a page says. */
    public record Page(List<Sample> samples, List<Histogram> histograms, List<Fault> faults) {}

    private static final class Family {
        String type = "unknown";
        String unit = "";
        String help = "";
    }

    private record HistogramKey(String name, Map<String, String> labels) {}

    private static final class HistogramLines {
        final TreeMap<Double, Double> buckets = new TreeMap<>();

        @Nullable
        Instant at;
    }

    public static Page read(String text) {
        var families = new LinkedHashMap<String, Family>();
        var samples = new ArrayList<Sample>();
        var faults = new ArrayList<Fault>();
        var histograms = new LinkedHashMap<HistogramKey, HistogramLines>();
        int number = 0;
        for (var line : (Iterable<String>) text.lines()::iterator) {
            number++;
            if (line.isBlank()) continue;
            if (line.equals("# EOF")) break;
            try {
                if (line.length() > LONGEST_LINE) throw new IllegalArgumentException("the line is too long");
                if (line.startsWith("#")) describe(line, families);
                else sample(number, line, families, samples, histograms);
            } catch (IllegalArgumentException bad) {
                faults.add(new Fault(number, String.valueOf(bad.getMessage())));
            }
        }
        var whole = new ArrayList<Histogram>();
        histograms.forEach((key, lines) -> {
            var family = families.getOrDefault(key.name(), new Family());
            whole.add(new Histogram(
                    key.name(), family.unit, family.help, key.labels(), Buckets.of(lines.buckets), lines.at));
        });
        return new Page(samples, whole, faults);
    }

    private static void describe(String line, Map<String, Family> families) {
        var part = line.split(" ", 4);
        if (part.length < 3 || !part[0].equals("#")) return;
        var family = families.computeIfAbsent(part[2], none -> new Family());
        var rest = part.length > 3 ? part[3] : "";
        switch (part[1]) {
            case "TYPE" -> family.type = rest.strip();
            case "UNIT" -> family.unit = rest.strip();
            case "HELP" -> family.help = rest.replace("\\n", " ").replace("\\\\", "\\");
            default -> {
                // an ordinary comment
            }
        }
    }

    private static void sample(
            int number,
            String line,
            Map<String, Family> families,
            List<Sample> samples,
            Map<HistogramKey, HistogramLines> histograms) {
        var in = new LineReader(line);
        var name = in.name();
        var labels = in.labels();
        double value = in.value();
        var at = in.time();
        if (name.endsWith("_created")) return;
        var bare = bare(name, families);
        var family = families.getOrDefault(bare, new Family());
        switch (family.type) {
            case "histogram", "gaugehistogram" -> {
                if (name.endsWith("_bucket")) {
                    var le = labels.remove("le");
                    if (le == null) throw new IllegalArgumentException("a bucket needs the label le");
                    var lines =
                            histograms.computeIfAbsent(new HistogramKey(bare, labels), none -> new HistogramLines());
                    lines.buckets.put(number(le), finite(name, value));
                    lines.at = at;
                } else if (name.endsWith("_count") || name.endsWith("_sum")) {
                    samples.add(new Sample(
                            number,
                            name,
                            Sort.COUNTER,
                            name.endsWith("_sum") ? family.unit : "",
                            family.help,
                            labels,
                            finite(name, value),
                            at));
                }
            }
            case "summary" -> {
                var quantile = labels.remove("quantile");
                if (quantile == null)
                    samples.add(
                            new Sample(number, name, Sort.COUNTER, "", family.help, labels, finite(name, value), at));
                else
                    samples.add(new Sample(
                            number,
                            bare + "_p" + Buckets.percent(number(quantile)),
                            Sort.GAUGE,
                            family.unit,
                            family.help,
                            labels,
                            finite(name, value),
                            at));
            }
            case "counter" ->
                samples.add(new Sample(
                        number, bare, Sort.COUNTER, family.unit, family.help, labels, counted(name, value), at));
            case "info", "stateset" -> {
                // words, not figures
            }
            default ->
                samples.add(new Sample(
                        number, bare, Sort.GAUGE, family.unit, family.help, labels, finite(name, value), at));
        }
    }

    private static String bare(String name, Map<String, Family> families) {
        for (var suffix : new String[] {"_total", "_bucket", "_count", "_sum", "_info"}) {
            if (!name.endsWith(suffix)) continue;
            var bare = name.substring(0, name.length() - suffix.length());
            var family = families.get(bare);
            if (family != null || suffix.equals("_total") && families.get(name) == null) {
                if (family == null) {
                    // Without a TYPE line the suffix alone says that it is a counter.
                    family = new Family();
                    family.type = "counter";
                    families.put(bare, family);
                }
                return bare;
            }
        }
        return name;
    }

    private static double finite(String name, double value) {
        if (!Double.isFinite(value))
            throw new IllegalArgumentException(name + " is " + value + ", which is no reading");
        return value;
    }

    private static double counted(String name, double value) {
        if (finite(name, value) < 0) throw new IllegalArgumentException("the counter " + name + " is below 0");
        return value;
    }

    private static double number(String text) {
        return switch (text) {
            case "+Inf", "Inf" -> Double.POSITIVE_INFINITY;
            case "-Inf" -> Double.NEGATIVE_INFINITY;
            case "NaN" -> Double.NaN;
            default -> {
                try {
                    if (text.isEmpty() || "dDfF".indexOf(text.charAt(text.length() - 1)) >= 0 || text.indexOf('x') >= 0)
                        throw new NumberFormatException();
                    yield Double.parseDouble(text);
                } catch (NumberFormatException bad) {
                    throw new IllegalArgumentException("\"" + text + "\" is not a number", bad);
                }
            }
        };
    }

    /** Goes through one line from left to right. */
    private static final class LineReader {
        private final String line;
        private int at;

        LineReader(String line) {
            this.line = line;
        }

        String name() {
            int from = at;
            while (at < line.length()
                    && (Character.isLetterOrDigit(line.charAt(at)) || "_:.".indexOf(line.charAt(at)) >= 0)) at++;
            if (at == from || Character.isDigit(line.charAt(from)))
                throw new IllegalArgumentException("expected the name of a measure at column " + (from + 1));
            return line.substring(from, at);
        }

        Map<String, String> labels() {
            var labels = new TreeMap<String, String>();
            if (at >= line.length() || line.charAt(at) != '{') return labels;
            at++;
            while (peek() != '}') {
                var name = name();
                expect('=');
                expect('"');
                if (labels.put(name, quoted()) != null)
                    throw new IllegalArgumentException("the label " + name + " stands twice");
                if (peek() == ',') at++;
                else if (peek() != '}') expect('}');
            }
            at++;
            return labels;
        }

        private char peek() {
            if (at >= line.length()) throw new IllegalArgumentException("the line ends in the middle of its labels");
            return line.charAt(at);
        }

        private void expect(char wanted) {
            if (peek() != wanted) throw new IllegalArgumentException("expected " + wanted + " at column " + (at + 1));
            at++;
        }

        private String quoted() {
            var value = new StringBuilder();
            while (peek() != '"') {
                char next = line.charAt(at++);
                if (next != '\\') {
                    value.append(next);
                    continue;
                }
                char escaped = peek();
                at++;
                value.append(escaped == 'n' ? '\n' : escaped);
            }
            at++;
            return value.toString();
        }

        double value() {
            return number(word("a value"));
        }

        @Nullable
        Instant time() {
            skip();
            if (at >= line.length() || line.charAt(at) == '#') return null;
            double seconds = number(word("a time"));
            // The ancestor of the format gives milliseconds; seconds of that size would be tens of thousands of years.
            if (Math.abs(seconds) > 1e11) seconds /= 1000;
            if (!Double.isFinite(seconds)) throw new IllegalArgumentException("the time is not a number of seconds");
            return Micros.instant(Math.round(seconds * 1e6));
        }

        private String word(String what) {
            skip();
            int from = at;
            while (at < line.length() && !Character.isWhitespace(line.charAt(at))) at++;
            if (from == at) throw new IllegalArgumentException(what + " is missing");
            return line.substring(from, at);
        }

        private void skip() {
            while (at < line.length() && Character.isWhitespace(line.charAt(at))) at++;
        }
    }
}
