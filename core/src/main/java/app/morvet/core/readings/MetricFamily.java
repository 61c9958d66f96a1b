package app.morvet.core.readings;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** One family of a page while it is read: what is said of it, its samples, and the buckets of its histograms. */
final class MetricFamily {
    private record Key(Map<String, String> labels, @Nullable Instant at) {}

    /** The lines of one state set at one instant. */
    private static final class Stated {
        final int line;
        final List<String> words = new ArrayList<>();
        final List<String> isTrue = new ArrayList<>();

        Stated(int line) {
            this.line = line;
        }

        boolean failed;

        void take(String word, double value) {
            boolean twice = words.contains(word);
            boolean neither = value != 0 && value != 1;
            failed |= twice || neither;
            if (twice) throw new IllegalArgumentException("the state \"" + word + "\" stands twice");
            if (neither) throw new IllegalArgumentException("a state has the value 0 or 1");
            words.add(word);
            if (value == 1) isTrue.add(word);
        }
    }

    /** The lines of one histogram at one instant. */
    private static final class Bucketed {
        final int line;
        final TreeMap<Double, Double> buckets = new TreeMap<>();
        final List<OpenMetrics.Sample> beside = new ArrayList<>();
        double last = Double.NEGATIVE_INFINITY;
        double count = Double.NaN;
        boolean sum;

        @Nullable
        String fault;

        Bucketed(int line) {
            this.line = line;
        }

        void failed(String words) {
            if (fault == null) fault = words;
        }
    }

    final String name;
    FamilyType type = FamilyType.UNKNOWN;
    String unit = "";
    String help = "";

    private final boolean strict;

    /** By which name its values are known; of a counter it is mostly the name without {@code _total}. */
    String measure;

    private final List<OpenMetrics.Sample> samples = new ArrayList<>();
    private final List<OpenMetrics.Info> infos = new ArrayList<>();
    private final Map<Key, Bucketed> histograms = new LinkedHashMap<>();
    private final Map<Key, Stated> states = new LinkedHashMap<>();

    /** @param strict whether the buckets of a histogram ascend as they come, and what is counted is a whole number */
    MetricFamily(String name, boolean strict) {
        this.name = name;
        this.strict = strict;
        this.measure = name;
    }

    /**
     * Takes what a line says.
     *
     * @param suffix behind the name of the family
     * @throws IllegalArgumentException where a sample of this type may not be so
     */
    void take(int line, String suffix, Map<String, String> labels, double value, @Nullable Instant at) {
        if (suffix.equals("_created")) return;
        switch (type) {
            case COUNTER -> add(line, measure, Sort.COUNTER, unit, labels, counted(value), at);
            case GAUGE, UNKNOWN -> {
                // The plain-text ancestor has no infos, and this is how it tells them all the same.
                if (!strict && value == 1 && name.endsWith("_info"))
                    infos.add(new OpenMetrics.Info(line, name.substring(0, name.length() - 5), labels, at));
                else add(line, measure, Sort.GAUGE, unit, labels, value, at);
            }
            case INFO -> {
                if (value != 1) throw new IllegalArgumentException("an info has the value 1");
                infos.add(new OpenMetrics.Info(line, name, labels, at));
            }
            case STATESET -> {
                var word = labels.get(name);
                if (word == null)
                    throw new IllegalArgumentException("a state set has a label of its own name, " + name);
                states.computeIfAbsent(new Key(without(name, labels), at), none -> new Stated(line))
                        .take(word, value);
            }
            case SUMMARY -> summary(line, suffix, labels, value, at);
            case HISTOGRAM, GAUGEHISTOGRAM -> histogram(line, suffix, labels, value, at);
        }
    }

    private void summary(int line, String suffix, Map<String, String> labels, double value, @Nullable Instant at) {
        if (!suffix.isEmpty()) {
            double whole = suffix.equals("_count") ? whole(value) : counted(value);
            add(line, name + suffix, Sort.COUNTER, suffix.equals("_sum") ? unit : "", labels, whole, at);
            return;
        }
        var quantile = labels.get("quantile");
        if (quantile == null) throw new IllegalArgumentException("a summary's value needs the label quantile");
        double share = MetricLine.number(quantile);
        if (!(share >= 0 && share <= 1))
            throw new IllegalArgumentException("a quantile lies from 0 to 1, was " + quantile);
        if (value < 0) throw new IllegalArgumentException("the value of a quantile is not below 0, was " + value);
        add(line, name + "_p" + Buckets.percent(share), Sort.GAUGE, unit, without("quantile", labels), value, at);
    }

    private void histogram(int line, String suffix, Map<String, String> told, double value, @Nullable Instant at) {
        var le = suffix.equals("_bucket") ? told.get("le") : null;
        if (le == null && suffix.equals("_bucket")) throw new IllegalArgumentException("a bucket needs the label le");
        var labels = le == null ? told : without("le", told);
        var one = histograms.computeIfAbsent(new Key(labels, at), none -> new Bucketed(line));
        try {
            if (le != null) bucket(one, le, value);
            else beside(one, line, suffix, labels, value, at);
        } catch (IllegalArgumentException bad) {
            one.failed(String.valueOf(bad.getMessage()));
            throw bad;
        }
    }

    private void bucket(Bucketed one, String le, double value) {
        double bound = MetricLine.number(le);
        if (Double.isNaN(bound) || Double.isInfinite(bound) && !le.equals("+Inf"))
            throw new IllegalArgumentException("a bucket's bound is a number or +Inf, was " + le);
        if (strict && bound < one.last)
            throw new IllegalArgumentException("the buckets do not ascend: le=\"" + le + "\"");
        one.last = bound;
        if (one.buckets.put(bound, whole(value)) != null)
            throw new IllegalArgumentException("the bucket le=\"" + le + "\" stands twice");
    }

    private void beside(
            Bucketed one, int line, String suffix, Map<String, String> labels, double value, @Nullable Instant at) {
        boolean sum = suffix.endsWith("sum");
        double told = !sum ? whole(value) : type == FamilyType.HISTOGRAM ? counted(value) : finite(value);
        if (sum) one.sum = true;
        else one.count = told;
        var sort = type == FamilyType.HISTOGRAM ? Sort.COUNTER : Sort.GAUGE;
        one.beside.add(new OpenMetrics.Sample(line, name + suffix, sort, sum ? unit : "", help, labels, told, at));
    }

    private static Map<String, String> without(String name, Map<String, String> labels) {
        var rest = new TreeMap<>(labels);
        rest.remove(name);
        return rest;
    }

    private void add(
            int line, String as, Sort sort, String in, Map<String, String> labels, double value, @Nullable Instant at) {
        samples.add(new OpenMetrics.Sample(line, as, sort, in, help, labels, finite(value), at));
    }

    private static double finite(double value) {
        if (!Double.isFinite(value)) throw new IllegalArgumentException("it is " + value + ", which is no reading");
        return value;
    }

    private static double counted(double value) {
        if (finite(value) < 0) throw new IllegalArgumentException("what is counted is not below 0, was " + value);
        return value;
    }

    private double whole(double value) {
        if (counted(value) != Math.rint(value) && strict)
            throw new IllegalArgumentException("what is counted is a whole number, was " + value);
        return value;
    }

    /** Puts what is good of it on a page, and what is not told with its line. */
    void into(OpenMetrics.Page page) {
        page.samples().addAll(samples);
        page.infos().addAll(infos);
        states.forEach((key, one) -> {
            if (one.failed) return;
            if (one.isTrue.size() == 1)
                page.states()
                        .add(new OpenMetrics.State(
                                one.line, name, help, key.labels(), one.words, one.isTrue.getFirst(), key.at()));
            else
                page.faults()
                        .add(new OpenMetrics.Fault(
                                one.line,
                                "of the states of %s exactly one is true, but %s"
                                        .formatted(
                                                name,
                                                one.isTrue.isEmpty()
                                                        ? "none is"
                                                        : String.join(" and ", one.isTrue) + " are")));
        });
        histograms.forEach((key, one) -> {
            var fault = one.fault != null ? null : incomplete(one);
            if (fault != null)
                page.faults().add(new OpenMetrics.Fault(one.line, "the histogram " + name + " " + fault));
            if (one.fault != null || fault != null) return;
            page.samples().addAll(one.beside);
            page.histograms()
                    .add(new OpenMetrics.Histogram(
                            name,
                            unit,
                            help,
                            key.labels(),
                            Buckets.of(one.buckets),
                            type == FamilyType.HISTOGRAM,
                            key.at()));
        });
    }

    private static @Nullable String incomplete(Bucketed one) {
        if (one.buckets.isEmpty()) return "has no buckets";
        double under = 0;
        for (var bucket : one.buckets.entrySet()) {
            if (bucket.getValue() < under)
                return "counts less up to %s than up to the bucket before it".formatted(bucket.getKey());
            under = bucket.getValue();
        }
        double all = one.buckets.lastEntry().getValue();
        if (one.buckets.lastKey() != Double.POSITIVE_INFINITY) return "has no bucket le=\"+Inf\"";
        if (one.sum && Double.isNaN(one.count)) return "has a sum without a count";
        if (!Double.isNaN(one.count) && one.count != all)
            return "counts %s, but its last bucket %s".formatted(one.count, all);
        if (one.sum && one.buckets.firstKey() < 0) return "has a sum, which none with a bound below 0 may have";
        return null;
    }
}
