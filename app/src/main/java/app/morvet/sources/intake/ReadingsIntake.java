package app.morvet.sources.intake;

import app.morvet.core.readings.Buckets;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.OpenMetrics;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.ReadingBook;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.util.StringUtils;
import tools.jackson.databind.JsonNode;

/**
 * Judges readings one by one, registers what is seen for the first time, and stores what is good; what is refused is kept
 * beside it. Labels named {@code component} and {@code kind} say what a reading is about; without them it is about the
 * feed itself.
 */
@Service
public class ReadingsIntake {
    private static final String OPEN_METRICS = "application/openmetrics-text";

    private static final int MOST_READINGS = 100_000;
    private static final int MOST_LINES = 200_000;

    /**
     * @param accepted how many are stored, counting those that were stored before
     * @param rejected by line of the page, or by index in the list
     */
    public record Outcome(int accepted, List<Intake.Rejected> rejected) {
        /** Why what is rejected is. */
        public List<String> reasons() {
            return rejected.stream().map(Intake.Rejected::reason).toList();
        }
    }

    /**
     * Who tells.
     *
     * @param component that what names none is about, by its key, and its kind
     * @param at        when what bears no time was
     * @param of        keys of what it may tell of; null for anything
     */
    public record Teller(String component, String kind, Instant at, @Nullable Set<String> of) {
        @Nullable
        String refusal(ToldSeries one) {
            return of == null || of.contains(one.component)
                    ? null
                    : "it may not tell of " + one.component + ", only of its host and what stands on it";
        }
    }

    /** What samples of one series have alike; labels that were written the same are the same map. */
    private record NamedSeries(Map<String, String> labels, String measure, Sort sort, String unit, String help) {
        static NamedSeries of(OpenMetrics.Sample sample) {
            return new NamedSeries(sample.labels(), sample.name(), sample.sort(), sample.unit(), sample.help());
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof NamedSeries(var its, var name, var itsSort, var itsUnit, var words)
                    && its == labels
                    && name.equals(measure)
                    && itsSort == sort
                    && itsUnit.equals(unit)
                    && words.equals(help);
        }

        @Override
        public int hashCode() {
            return 31 * System.identityHashCode(labels) + measure.hashCode();
        }
    }

    private record ToldBuckets(
            String component, String kind, OpenMetrics.Histogram histogram, Map<String, String> labels, long at) {}

    private final Estate estate;
    private final ReadingRules rules;
    private final ReadingBook readings;
    private final ReadingRows rows;
    private final RejectStore rejects;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final ApplicationEventPublisher events;

    ReadingsIntake(
            Estate estate,
            ReadingRules rules,
            ReadingBook readings,
            ReadingRows rows,
            RejectStore rejects,
            TransactionTemplate transaction,
            Clock clock,
            ApplicationEventPublisher events) {
        this.events = events;
        this.estate = estate;
        this.rules = rules;
        this.readings = readings;
        this.rows = rows;
        this.rejects = rejects;
        this.transaction = transaction;
        this.clock = clock;
    }

    static boolean isPage(ContentType type) {
        return type.media().equals(OPEN_METRICS) || type.media().equals("text/plain");
    }

    /** Takes a page, to the letter of OpenMetrics where its type says that it is such, else as its plain-text ancestor. */
    Outcome takePage(long feed, ContentType type, String text) {
        var now = clock.instant();
        if (StringUtils.countOccurrencesOf(text, "\n") >= MOST_LINES)
            throw tooMany("At most %,d lines a page; send several.".formatted(MOST_LINES));
        var page = type.media().equals(OPEN_METRICS) ? OpenMetrics.strict(text) : OpenMetrics.lenient(text);
        return takePage(feed, page, text, anyone(feed, now));
    }

    private Teller anyone(long feed, Instant now) {
        return new Teller(estate.feed(feed).map(Estate.Feed::key).orElse("feed"), "component", now, null);
    }

    /** Takes a page that was read, from who tells it. */
    public Outcome takePage(long feed, OpenMetrics.Page page, String text, Teller teller) {
        var now = teller.at();
        var told = new ArrayList<Told>(page.samples().size());
        var buckets = new ArrayList<ToldBuckets>();
        if (page.samples().size() + page.states().size() > MOST_READINGS) throw tooMany();
        var lines = new PageLines(text);
        var refusals = new Refusals();
        page.faults().forEach(fault -> refusals.add(fault.line(), "", fault.words(), () -> lines.at(fault.line())));
        var series = new HashMap<NamedSeries, ToldSeries>();
        for (var sample : page.samples()) {
            var of = series.computeIfAbsent(NamedSeries.of(sample), named -> told(sample, teller));
            var one = new Told(sample.line(), of, Micros.of(sample.at() == null ? now : sample.at()), sample.value());
            judge(one, teller, told, refusals, () -> lines.at(one.place()));
        }
        for (var state : page.states()) {
            var labels = new TreeMap<>(state.labels());
            var component = taken(labels, "component", teller.component());
            var kind = taken(labels, "kind", teller.kind());
            var at = Micros.of(state.at() == null ? now : state.at());
            var said = new Told.State(state.word(), state.words(), "");
            var one = Told.of(said, state.line(), component, kind, state.name(), state.help(), labels, at);
            judge(one, teller, told, refusals, () -> lines.at(one.place()));
        }
        for (var histogram : page.histograms()) {
            var labels = new TreeMap<>(histogram.labels());
            var component = taken(labels, "component", teller.component());
            var kind = taken(labels, "kind", teller.kind());
            var whole = new ToldBuckets(
                    component, kind, histogram, labels, Micros.of(histogram.at() == null ? now : histogram.at()));
            // Its percentiles are readings like others, so what is refused of those is refused of it.
            var reason = refusal(percentile(whole, "p50", 0), teller);
            if (reason == null) buckets.add(whole);
            else refusals.add(0, component + " " + histogram.name(), reason, () -> "");
        }
        var infos = infos(page, teller, refusals, lines);
        var outcome = store(feed, clock.instant(), told, buckets, refusals);
        if (!infos.isEmpty()) events.publishEvent(new InfosArrived(feed, infos));
        return outcome;
    }

    /** Those that are of a component that can be, registered where they are new. */
    private List<InfosArrived.Told> infos(OpenMetrics.Page page, Teller teller, Refusals refusals, PageLines lines) {
        var infos = new ArrayList<InfosArrived.Told>();
        var newcomers = new LinkedHashMap<String, Estate.Newcomer>();
        for (var info : page.infos()) {
            var labels = new TreeMap<>(info.labels());
            var component = taken(labels, "component", teller.component());
            var kind = taken(labels, "kind", teller.kind());
            var at = info.at() == null ? teller.at() : info.at();
            // What holds for a reading of it holds for it.
            var of = new ToldSeries(component, kind, info.name(), Sort.GAUGE, "", "", labels);
            var like = new Told(info.line(), of, Micros.of(at), 1);
            var reason = refusal(like, teller);
            if (reason != null) refusals.add(info.line(), component, reason, () -> lines.at(info.line()));
            else {
                infos.add(new InfosArrived.Told(component, info.name(), labels, at));
                if (estate.byKey(component).isEmpty())
                    newcomers.putIfAbsent(
                            component,
                            new Estate.Newcomer(component, Estate.KINDS.contains(kind) ? kind : "component"));
            }
        }
        if (!newcomers.isEmpty()) estate.register(newcomers.values());
        return InfosArrived.together(infos);
    }

    private static Refusal tooMany() {
        return tooMany("At most %,d readings in a batch; send several.".formatted(MOST_READINGS));
    }

    private static Refusal tooMany(String detail) {
        return new Refusal(HttpStatus.CONTENT_TOO_LARGE, "Batch too large", detail);
    }

    private static ToldSeries told(OpenMetrics.Sample sample, Teller teller) {
        var labels = new TreeMap<>(sample.labels());
        var component = taken(labels, "component", teller.component());
        var kind = taken(labels, "kind", teller.kind());
        return new ToldSeries(component, kind, sample.name(), sample.sort(), sample.unit(), sample.help(), labels);
    }

    private static String taken(Map<String, String> labels, String name, String otherwise) {
        var value = labels.remove(name);
        return value == null || value.isBlank() ? otherwise : value;
    }

    Outcome takeJson(long feed, JsonNode list) {
        return takeJson(feed, list, anyone(feed, clock.instant()));
    }

    /** Takes readings from who may tell of some components only. */
    public Outcome takeJson(long feed, JsonNode list, Set<String> of) {
        var anyone = anyone(feed, clock.instant());
        return takeJson(feed, list, new Teller(anyone.component(), anyone.kind(), anyone.at(), of));
    }

    private Outcome takeJson(long feed, JsonNode list, Teller teller) {
        if (list.size() > MOST_READINGS) throw tooMany();
        var told = new ArrayList<Told>(list.size());
        var refusals = new Refusals();
        for (int index = 0; index < list.size(); index++) {
            var node = list.get(index);
            try {
                var one = ReadingsJson.read(node, index, teller.component(), teller.at());
                judge(one, teller, told, refusals, node::toString);
            } catch (IllegalArgumentException bad) {
                refusals.add(index, "", String.valueOf(bad.getMessage()), node::toString);
            }
        }
        return store(feed, clock.instant(), told, List.of(), refusals);
    }

    private void judge(Told one, Teller teller, List<Told> good, Refusals refusals, Supplier<String> sent) {
        var reason = refusal(one, teller);
        if (reason == null) good.add(one);
        else refusals.add(one.place(), one.of().named(), reason, sent);
    }

    private @Nullable String refusal(Told one, Teller teller) {
        var reason = teller.refusal(one.of());
        return reason == null ? rules.refusal(one, clock.instant()) : reason;
    }

    private Outcome store(long feed, Instant now, List<Told> told, List<ToldBuckets> buckets, Refusals refusals) {
        estate.heard(feed);
        var stored = new int[1];
        BadItems.storeAll(
                told,
                some -> stored[0] += store(feed, some, List.of(), refusals),
                (one, why) -> refusals.add(one.place(), one.of().named(), why, () -> ""));
        BadItems.storeAll(
                buckets,
                some -> stored[0] += store(feed, List.of(), some, refusals),
                (one, why) -> refusals.add(0, key(one), why, () -> ""));
        rejects.keep(feed, now, refusals);
        return new Outcome(stored[0], refusals.rejected());
    }

    /** Gives back how many are stored, counting those that were before. */
    private int store(long feed, List<Told> told, List<ToldBuckets> buckets, Refusals refusals) {
        if (told.isEmpty() && buckets.isEmpty()) return 0;
        var all = prepared(feed, told, buckets, refusals);
        transaction.executeWithoutResult(status -> {
            for (var one : buckets) percentiles(one, all);
            rows.write(feed, all);
        });
        return all.size();
    }

    /** Registers what is new and makes its days, before anything is stored; gives back those that have a series. */
    private List<Told> prepared(long feed, List<Told> told, List<ToldBuckets> buckets, Refusals refusals) {
        var coming = Collections.newSetFromMap(new IdentityHashMap<Told, Boolean>());
        for (var one : buckets)
            if (!one.histogram().growing() || readings.knows(key(one)))
                Buckets.shares().keySet().forEach(suffix -> coming.add(percentile(one, suffix, 0)));
        var all = new ArrayList<>(told);
        all.addAll(coming);
        rows.prepare(all, feed, false, refusals);
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
        var of = new ToldSeries(
                one.component(),
                one.kind(),
                histogram.name() + "_" + suffix,
                Sort.GAUGE,
                histogram.unit(),
                histogram.help(),
                one.labels());
        return new Told(0, of, one.at(), value);
    }
}
