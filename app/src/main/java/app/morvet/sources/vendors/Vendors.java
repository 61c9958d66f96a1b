package app.morvet.sources.vendors;

import app.morvet.core.guard.Spans;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.core.vendors.Bulletin;
import app.morvet.core.vendors.Reading;
import app.morvet.core.vendors.VendorState;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.sources.intake.StatesSaid;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * What vendors say of their instances, kept: states are series as any other, on the instance and by its parts; bulletins with each of
 * their versions; and what came of each look at a feed, which is a state of its own, so that a feed that fails is told like all else.
 */
@Service
public class Vendors implements AgedData {
    public static final String TOPIC = "vendors";
    /** What the vendor says: {@link VendorState}. */
    public static final String STATE = "vendor";
    /** Whether its feed can be read. */
    public static final String FEED = "vendor_feed";

    public static final String KIND = "vendor instance";
    private static final String FEED_WORDS = "read, in doubt, not read";
    private static final Duration KEPT = Duration.ofDays(60);
    private static final int A_TIME = 2000;

    /** What came of one look. */
    public record Poll(Instant at, Duration took, List<String> faults) {}

    /** A bulletin as it was. */
    public record Version(
            int version,
            Instant at,
            String title,
            String text,
            @Nullable Instant from,
            @Nullable Instant to,
            boolean over) {}

    /** A bulletin is new, says something else, or is not there any more; told within the transaction. */
    public record BulletinMoved(StoredBulletin bulletin) {}

    private final VendorStore store;
    private final Connections connections;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final Estate estate;
    private final Audit audit;
    private final MorvetSettings settings;
    private final Live live;
    private final TransactionTemplate transaction;
    private final ApplicationEventPublisher events;

    Vendors(
            VendorStore store,
            Connections connections,
            SeriesBook series,
            ReadingBook readings,
            Estate estate,
            Audit audit,
            MorvetSettings settings,
            Live live,
            TransactionTemplate transaction,
            ApplicationEventPublisher events) {
        this.store = store;
        this.connections = connections;
        this.series = series;
        this.readings = readings;
        this.estate = estate;
        this.audit = audit;
        this.settings = settings;
        this.live = live;
        this.transaction = transaction;
        this.events = events;
    }

    public List<VendorInstance> instances() {
        return store.instances();
    }

    public Optional<VendorInstance> instance(long component) {
        return instances().stream().filter(one -> one.component() == component).findFirst();
    }

    /**
     * Keeps what is agreed of an instance.
     *
     * @throws IllegalArgumentException where somebody else was faster
     */
    @Transactional
    public void keep(VendorInstance one, @Nullable Person by) {
        var before = instance(one.component()).orElse(null);
        if (!store.keep(one))
            throw new IllegalArgumentException("Somebody else changed this meanwhile; look at it as it is now.");
        if (by != null)
            audit.record(
                    by,
                    before == null ? "vendor instance made" : "vendor instance changed",
                    "vendor instance " + estate.component(one.component()).name(),
                    before == null ? null : words(before),
                    words(one));
        live.changed(TOPIC);
    }

    private static String words(VendorInstance one) {
        return "of %s, %s %% agreed, tickets to %s, planned work %s, %s"
                .formatted(
                        one.vendor(),
                        one.agreed(),
                        one.mail().isEmpty() ? "nobody" : one.mail(),
                        one.byItself() ? "accepted by itself" : "accepted by hand",
                        one.told() == null ? "nobody told" : "told " + Spans.words(one.told()) + " before");
    }

    /** The feeds of an instance. */
    public List<Connection> feeds(long component) {
        var key = estate.component(component).key();
        return connections.of(VendorFeeds.SORT).stream()
                .filter(one -> one.get(VendorFeeds.COMPONENT).equals(key))
                .toList();
    }

    public List<Poll> polls(long connection, int most) {
        return store.polls(connection, most);
    }

    public List<StoredBulletin> bulletins(long component, int most) {
        return store.of(component, most);
    }

    public List<StoredBulletin> open(Instant now, int most) {
        return store.open(now, most);
    }

    public Optional<StoredBulletin> bulletin(long id) {
        return store.bulletin(id);
    }

    /** Since when the vendor says of some bulletins that they are over, by their ids; of others nothing. */
    public Map<Long, Instant> overSince(Collection<Long> bulletins) {
        return store.overSince(bulletins);
    }

    public List<Version> versions(long bulletin) {
        return store.versions(bulletin);
    }

    /**
     * Takes what one look at a feed gave.
     *
     * @param read null where there was no answer
     * @param faults why not, or what could not be read
     * @param unknown whether what was known before is known no more
     */
    void took(
            Connection feed,
            @Nullable Reading read,
            List<String> faults,
            boolean unknown,
            Instant at,
            Duration took,
            Duration every) {
        var component = estate.byKey(feed.get(VendorFeeds.COMPONENT)).orElse(null);
        if (component == null) return;
        var told = new LinkedHashMap<Series, Integer>();
        var feedState = read == null ? 2 : faults.isEmpty() ? 0 : 1;
        var states = new LinkedHashMap<String, VendorState>();
        if (read != null) states.putAll(read.states());
        if (unknown)
            for (var one : series.ofComponent(component.id()))
                if (one.measure().name().equals(STATE))
                    states.putIfAbsent(one.labels().getOrDefault("part", ""), VendorState.UNKNOWN);
        register(component.id(), feed, states, every);
        told.put(series.find(component.id(), FEED, Map.of("feed", feed.name())).orElseThrow(), feedState);
        states.forEach((part, state) ->
                told.put(series.find(component.id(), STATE, labels(part)).orElseThrow(), state.ordinal()));
        promise(told, every);
        var ids = told.keySet().stream().mapToLong(Series::id).toArray();
        var values = told.values().stream().mapToDouble(Integer::doubleValue).toArray();
        var times = new long[ids.length];
        java.util.Arrays.fill(times, Micros.of(at));
        readings.prepare(times);
        transaction.executeWithoutResult(status -> {
            store.polled(feed.id(), at, took, faults);
            readings.add(ids, times, values);
            if (!faults.isEmpty())
                events.publishEvent(new StatesSaid(
                        null, List.of(new StatesSaid.Said(ids[0], times[0], feedState, String.join("\n", faults)))));
            if (read != null) bulletins(component.id(), feed.id(), read.bulletins(), at);
        });
        live.changed(TOPIC);
    }

    private static Map<String, String> labels(String part) {
        return part.isEmpty() ? Map.of() : Map.of("part", part);
    }

    private void register(long component, Connection feed, Map<String, VendorState> states, Duration every) {
        var fresh = new ArrayList<SeriesBook.Newcomer>();
        var ofFeed = Map.of("feed", feed.name());
        if (series.find(component, FEED, ofFeed).isEmpty())
            fresh.add(new SeriesBook.Newcomer(
                            component, FEED, Sort.STATE, FEED_WORDS, "Whether the vendor's feed can be read.", ofFeed)
                    .promising(every));
        for (var part : states.keySet())
            if (series.find(component, STATE, labels(part)).isEmpty())
                fresh.add(new SeriesBook.Newcomer(
                                component,
                                STATE,
                                Sort.STATE,
                                VendorState.WORDS.text(),
                                "What the vendor says of it.",
                                labels(part))
                        .promising(every));
        if (!fresh.isEmpty()) series.registerOwn(fresh);
    }

    private void promise(Map<Series, Integer> told, Duration every) {
        var other = new HashMap<Long, Duration>();
        for (var one : told.keySet()) if (!every.equals(one.promised())) other.put(one.id(), every);
        if (!other.isEmpty()) series.promise(other);
    }

    private void bulletins(long component, long connection, List<Bulletin> said, Instant at) {
        var known = store.lock(connection, said.stream().map(Bulletin::id).toList());
        var moved = new LinkedHashSet<Long>();
        var seen = new ArrayList<Long>();
        var left = new HashMap<>(known);
        for (var raw : said) {
            var one = plain(raw);
            var before = left.remove(one.id());
            if (before == null && known.containsKey(one.id())) continue; // told twice, the first stands
            if (before == null) moved.add(store.add(component, connection, one, at));
            else if (!before.said().saysAs(one)) {
                store.change(before.id(), one, at);
                moved.add(before.id());
            } else {
                seen.add(before.id());
                if (before.goneAt() != null) moved.add(before.id());
            }
        }
        store.seen(seen, at);
        var gone = left.values().stream()
                .filter(one -> one.goneAt() == null)
                .map(StoredBulletin::id)
                .toList();
        store.gone(gone, at);
        moved.addAll(gone);
        for (var id : moved) store.bulletin(id).ifPresent(one -> events.publishEvent(new BulletinMoved(one)));
    }

    /** As the store takes it. */
    private static Bulletin plain(Bulletin one) {
        return new Bulletin(
                PlainText.of(one.id()),
                one.planned(),
                PlainText.of(one.title()),
                PlainText.of(one.text()),
                one.from(),
                one.to(),
                one.updated(),
                one.over(),
                one.parts());
    }

    /** For what is set up by the application itself: what one look in the past gave. */
    public void past(Connection feed, Reading read, Instant at, Duration every) {
        took(feed, read, read.faults(), false, at, Duration.ofMillis(120), every);
    }

    @Override
    public void dropOld(Instant now) {
        while (store.dropPollsBefore(now.minus(KEPT), A_TIME) == A_TIME) continue;
    }
}
