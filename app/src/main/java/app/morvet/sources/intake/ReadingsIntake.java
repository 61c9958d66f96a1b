package app.morvet.sources.intake;

import app.morvet.core.readings.Buckets;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.OpenMetrics;
import app.morvet.core.readings.Sort;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.SeriesBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;

/**
 * Judges readings one by one, registers what is seen for the first time, and stores what is good and what is refused in one
 * transaction. Labels named {@code component} and {@code kind} say what a reading is about; without them it is about the
 * feed itself.
 */
@Service
class ReadingsIntake {
    private static final String OPEN_METRICS = "application/openmetrics-text";
    private static final Duration AHEAD = Duration.ofMinutes(5);
    private static final int MOST_LABELS = 16;
    private static final int LONGEST_NAME = 200;
    /** A feed that labels by something endless would fill the estate; what is beyond this is refused. */
    private static final int MOST_SERIES = 200_000;

    /**
     * @param accepted how many are stored, counting those that were stored before
     * @param rejected by line of the page, or by index in the list
     */
    record Outcome(int accepted, List<Intake.Rejected> rejected) {}

    private record Told(
            int place,
            String component,
            String kind,
            String measure,
            Sort sort,
            String unit,
            String help,
            Map<String, String> labels,
            long at,
            double value) {}

    private record ToldBuckets(
            String component, String kind, OpenMetrics.Histogram histogram, Map<String, String> labels, long at) {}

    private final Estate estate;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final RejectStore rejects;
    private final TransactionTemplate transaction;
    private final MorvetSettings settings;
    private final Live live;
    private final Clock clock;

    ReadingsIntake(
            Estate estate,
            SeriesBook series,
            ReadingBook readings,
            RejectStore rejects,
            TransactionTemplate transaction,
            MorvetSettings settings,
            Live live,
            Clock clock) {
        this.estate = estate;
        this.series = series;
        this.readings = readings;
        this.rejects = rejects;
        this.transaction = transaction;
        this.settings = settings;
        this.live = live;
        this.clock = clock;
    }

    static boolean isPage(ContentType type) {
        return type.media().equals(OPEN_METRICS) || type.media().equals("text/plain");
    }

    /** Takes a page, to the letter of OpenMetrics where its type says that it is such, else as its plain-text ancestor. */
    Outcome takePage(long feed, ContentType type, String text) {
        var now = clock.instant();
        var page = type.media().equals(OPEN_METRICS) ? OpenMetrics.strict(text) : OpenMetrics.lenient(text);
        var feedKey = estate.feed(feed).map(Estate.Feed::key).orElse("feed");
        var told = new ArrayList<Told>(page.samples().size());
        var buckets = new ArrayList<ToldBuckets>();
        var rejected = new ArrayList<Intake.Rejected>();
        page.faults().forEach(fault -> rejected.add(new Intake.Rejected(fault.line(), "", fault.words())));
        for (var sample : page.samples()) {
            var labels = new TreeMap<>(sample.labels());
            var component = taken(labels, "component", feedKey);
            var kind = taken(labels, "kind", "component");
            var one = new Told(
                    sample.line(),
                    component,
                    kind,
                    sample.name(),
                    sample.sort(),
                    sample.unit(),
                    sample.help(),
                    labels,
                    Micros.of(sample.at() == null ? now : sample.at()),
                    sample.value());
            judge(one, now, told, rejected);
        }
        for (var histogram : page.histograms()) {
            var labels = new TreeMap<>(histogram.labels());
            var component = taken(labels, "component", feedKey);
            var kind = taken(labels, "kind", "component");
            var whole = new ToldBuckets(
                    component, kind, histogram, labels, Micros.of(histogram.at() == null ? now : histogram.at()));
            // Its percentiles are readings like others, so what is refused of those is refused of it.
            var reason = refusal(percentile(whole, "p50", 0), now);
            if (reason == null) buckets.add(whole);
            else rejected.add(new Intake.Rejected(0, component + " " + histogram.name(), reason));
        }
        return store(feed, now, told, buckets, rejected, bad -> text.lines()
                .skip(Math.max(0, bad.index() - 1))
                .findFirst()
                .orElse(""));
    }

    private static String taken(Map<String, String> labels, String name, String otherwise) {
        var value = labels.remove(name);
        return value == null || value.isBlank() ? otherwise : value;
    }

    Outcome takeJson(long feed, JsonNode list) {
        var now = clock.instant();
        var feedKey = estate.feed(feed).map(Estate.Feed::key).orElse("feed");
        var told = new ArrayList<Told>(list.size());
        var rejected = new ArrayList<Intake.Rejected>();
        for (int index = 0; index < list.size(); index++) {
            try {
                judge(read(list.get(index), index, feedKey, now), now, told, rejected);
            } catch (IllegalArgumentException bad) {
                rejected.add(new Intake.Rejected(index, "", String.valueOf(bad.getMessage())));
            }
        }
        return store(feed, now, told, List.of(), rejected, bad -> list.get(bad.index())
                .toString());
    }

    private static Told read(JsonNode node, int index, String feedKey, Instant now) {
        if (!node.isObject()) throw new IllegalArgumentException("a reading must be a JSON object");
        var value = node.get("value");
        if (value == null || !value.isNumber()) throw new IllegalArgumentException("value must be a number");
        var labels = new TreeMap<String, String>();
        var given = node.get("labels");
        if (given != null && !given.isNull()) {
            if (!given.isObject()) throw new IllegalArgumentException("labels must be an object of texts");
            for (var entry : given.properties())
                labels.put(entry.getKey(), entry.getValue().asString());
        }
        return new Told(
                index,
                text(node, "component", feedKey),
                text(node, "kind", "component"),
                text(node, "measure", ""),
                sort(text(node, "sort", "gauge")),
                text(node, "unit", ""),
                "",
                labels,
                Micros.of(time(text(node, "at", ""), now)),
                value.doubleValue());
    }

    private static String text(JsonNode node, String name, String otherwise) {
        var value = node.get(name);
        if (value == null || value.isNull()) return otherwise;
        if (!value.isString()) throw new IllegalArgumentException(name + " must be a text");
        return value.stringValue();
    }

    private static Sort sort(String word) {
        for (var sort : Sort.values()) if (sort.word().equals(word)) return sort;
        throw new IllegalArgumentException("sort must be gauge, counter or count, was \"" + word + "\"");
    }

    private static Instant time(String text, Instant now) {
        if (text.isEmpty()) return now;
        try {
            return OffsetDateTime.parse(text).toInstant();
        } catch (DateTimeParseException bad) {
            throw new IllegalArgumentException(
                    "at must be a time as in RFC 3339, such as 2026-11-24T06:42:00Z, was \"" + text + "\"", bad);
        }
    }

    private void judge(Told one, Instant now, List<Told> good, List<Intake.Rejected> bad) {
        var reason = refusal(one, now);
        if (reason == null) good.add(one);
        else bad.add(new Intake.Rejected(one.place(), one.component() + " " + one.measure(), reason));
    }

    private @Nullable String refusal(Told one, Instant now) {
        if (!Double.isFinite(one.value())) return "value is not a finite number, which is no reading";
        if (one.measure().isBlank() || one.measure().length() > LONGEST_NAME)
            return "measure is missing or longer than 200 characters";
        if (!one.measure().matches("[A-Za-z_:][A-Za-z0-9_:.]*"))
            return "measure must be a name of letters, digits and _, was \"" + one.measure() + "\"";
        if (one.measure().equals(Measure.FAILED_MESSAGES)) return "failed_messages is counted from events, not sent";
        if (one.component().isBlank() || one.component().length() > LONGEST_NAME)
            return "component is missing or longer than 200 characters";
        if (one.component().indexOf('\0') >= 0) return "component contains a NUL";
        if (one.labels().size() > MOST_LABELS)
            return "at most 16 labels, were " + one.labels().size();
        for (var label : one.labels().entrySet()) {
            if (label.getKey().length() > LONGEST_NAME || label.getValue().length() > LONGEST_NAME)
                return "a label is longer than 200 characters";
            if (label.getValue().indexOf('\0') >= 0 || label.getKey().indexOf('\0') >= 0)
                return "a label contains a NUL";
        }
        var at = Micros.instant(one.at());
        if (at.isAfter(now.plus(AHEAD))) return "at lies more than 5 min ahead of Morvet's clock";
        if (at.isBefore(now.minus(settings.keepReadings())))
            return "at lies before the " + settings.keepReadings().toDays() + " days that are kept";
        return null;
    }

    private interface BodyOf {
        String of(Intake.Rejected bad);
    }

    private Outcome store(
            long feed,
            Instant now,
            List<Told> told,
            List<ToldBuckets> buckets,
            List<Intake.Rejected> rejected,
            BodyOf body) {
        estate.heard(feed);
        var all = prepared(feed, told, buckets, rejected);
        transaction.executeWithoutResult(status -> {
            for (var one : buckets) percentiles(one, all);
            var ids = new long[all.size()];
            var times = new long[ids.length];
            var values = new double[ids.length];
            int size = 0;
            for (var one : all) {
                var component = estate.byKey(one.component());
                var found = component.isEmpty()
                        ? null
                        : series.find(component.get().id(), one.measure(), one.labels())
                                .orElse(null);
                if (found == null) continue;
                ids[size] = found.id();
                times[size] = one.at();
                values[size++] = one.value();
            }
            readings.add(
                    java.util.Arrays.copyOf(ids, size),
                    java.util.Arrays.copyOf(times, size),
                    java.util.Arrays.copyOf(values, size));
            rejects.keep(
                    feed,
                    now,
                    rejected,
                    rejected.stream().map(bad -> Intake.cut(body.of(bad))).toList());
            if (!rejected.isEmpty()) live.changed("now");
        });
        return new Outcome(all.size(), rejected);
    }

    /** Registers what is new and makes its days, before anything is stored; gives back those that have a series. */
    private List<Told> prepared(long feed, List<Told> told, List<ToldBuckets> buckets, List<Intake.Rejected> rejected) {
        var coming = Collections.newSetFromMap(new IdentityHashMap<Told, Boolean>());
        for (var one : buckets)
            if (!one.histogram().growing() || readings.knows(key(one)))
                Buckets.shares().keySet().forEach(suffix -> coming.add(percentile(one, suffix, 0)));
        var all = new ArrayList<>(told);
        all.addAll(coming);
        register(all, feed, rejected);
        readings.prepare(all.stream().mapToLong(Told::at).toArray());
        all.removeIf(coming::contains);
        return all;
    }

    private static String key(ToldBuckets one) {
        return one.component() + " " + one.histogram().name() + " " + one.labels();
    }

    /** From what was added to a histogram since its last page, its percentiles; at the first page there are none yet. */
    private void percentiles(ToldBuckets one, List<Told> all) {
        var histogram = one.histogram();
        var added =
                histogram.growing() ? readings.since(key(one), histogram.buckets()) : Optional.of(histogram.buckets());
        if (added.isEmpty()) return;
        new TreeMap<>(Buckets.shares())
                .forEach((suffix, share) ->
                        added.get().quantile(share).ifPresent(value -> all.add(percentile(one, suffix, value))));
    }

    private static Told percentile(ToldBuckets one, String suffix, double value) {
        var histogram = one.histogram();
        return new Told(
                0,
                one.component(),
                one.kind(),
                histogram.name() + "_" + suffix,
                Sort.GAUGE,
                histogram.unit(),
                histogram.help(),
                one.labels(),
                one.at(),
                value);
    }

    private void register(List<Told> all, long feed, List<Intake.Rejected> rejected) {
        var newComponents = new LinkedHashMap<String, Estate.Newcomer>();
        for (var one : all) {
            if (estate.byKey(one.component()).isEmpty()) {
                var kind = Estate.KINDS.contains(one.kind()) ? one.kind() : "component";
                newComponents.putIfAbsent(one.component(), new Estate.Newcomer(one.component(), kind));
            }
        }
        if (!newComponents.isEmpty()) estate.register(newComponents.values());
        var newSeries = new LinkedHashSet<SeriesBook.Newcomer>();
        var known = new HashMap<String, Long>();
        for (var one : all) {
            long component = known.computeIfAbsent(
                    one.component(),
                    key -> estate.byKey(key).map(Estate.Component::id).orElse(-1L));
            if (component >= 0
                    && series.find(component, one.measure(), one.labels()).isEmpty())
                newSeries.add(new SeriesBook.Newcomer(
                        component, one.measure(), one.sort(), one.unit(), one.help(), one.labels()));
        }
        if (newSeries.isEmpty()) return;
        if (series.size() + newSeries.size() > MOST_SERIES) {
            all.removeIf(one -> {
                boolean refused = series.find(known.getOrDefault(one.component(), -1L), one.measure(), one.labels())
                        .isEmpty();
                if (refused)
                    rejected.add(new Intake.Rejected(
                            one.place(),
                            one.component() + " " + one.measure(),
                            "it would be a new series, and %,d are there already; does a label change all the time?"
                                    .formatted(MOST_SERIES)));
                return refused;
            });
            return;
        }
        series.register(newSeries, feed);
    }
}
