package app.morvet.sources.readings;

import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import app.morvet.ground.base.OwnTransaction;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/**
 * All measures and series, in memory, since every reading asks for its series. They register themselves on first sight and
 * are hardly ever changed, so only new ones are read again; where there are more words of a state, another promise or an end, all are.
 */
@Service
public class SeriesBook {
    /** New measures or series are there, or some are there no more. */
    public record SeriesAdded() {}

    /** Some are over on purpose; told within the transaction. */
    public record SeriesEnded(Collection<Long> series) {}

    private record Place(long component, String measure, Map<String, String> labels) {}

    private record Book(
            Map<Long, Measure> measures,
            Map<String, Measure> byName,
            Map<Long, Series> series,
            Map<Place, Series> byPlace,
            Map<String, List<Series>> byMeasure,
            Map<Long, List<Series>> byComponent,
            Set<Long> ended,
            long newest) {}

    private static final Book EMPTY = new Book(Map.of(), Map.of(), Map.of(), Map.of(), Map.of(), Map.of(), Set.of(), 0);

    /** The notice that series were added. */
    public static final String ADDED = "series";

    private static final String ALTERED = "series altered";

    private final ReadingStore store;
    private final Notices notices;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    private final OwnTransaction ownTransaction;
    private volatile @Nullable Book book;

    SeriesBook(
            ReadingStore store,
            Notices notices,
            Clock clock,
            ApplicationEventPublisher events,
            OwnTransaction ownTransaction) {
        this.store = store;
        this.notices = notices;
        this.clock = clock;
        this.events = events;
        this.ownTransaction = ownTransaction;
        notices.hearOthers(ADDED, this::refresh);
        notices.hearOthers(ALTERED, this::readAnew);
    }

    private Book book() {
        var kept = book;
        return kept == null ? refresh() : kept;
    }

    /** Reads what is new since the last time. Series are registered in turn, so what is new has a higher id. */
    private synchronized Book refresh() {
        var standing = book == null ? EMPTY : book;
        var measures = new HashMap<Long, Measure>();
        var byName = new HashMap<String, Measure>();
        for (var measure : store.measures()) {
            measures.put(measure.id(), measure);
            byName.put(measure.name(), measure);
        }
        boolean asBefore = standing.measures().entrySet().stream()
                .allMatch(one -> one.getValue().equals(measures.get(one.getKey())));
        var before = asBefore ? standing : EMPTY;
        var fresh = store.series(before.newest(), id -> java.util.Objects.requireNonNull(measures.get(id)));
        if (asBefore && fresh.isEmpty() && book != null && before.measures().size() == measures.size()) return before;
        var series = new HashMap<>(before.series());
        var byPlace = new HashMap<>(before.byPlace());
        var byMeasure = new HashMap<>(before.byMeasure());
        var byComponent = new HashMap<>(before.byComponent());
        long newest = before.newest();
        for (var one : fresh) {
            series.put(one.id(), one);
            byPlace.put(new Place(one.component(), one.measure().name(), one.labels()), one);
            newest = Math.max(newest, one.id());
        }
        var ended = before == EMPTY ? store.ended() : before.ended();
        fresh.stream()
                .filter(one -> !ended.contains(one.id()))
                .collect(Collectors.groupingBy(one -> one.measure().name()))
                .forEach((measure, some) -> byMeasure.merge(measure, some, SeriesBook::joined));
        fresh.stream()
                .collect(Collectors.groupingBy(Series::component))
                .forEach((component, some) -> byComponent.merge(component, some, SeriesBook::joined));
        var next = new Book(measures, byName, series, byPlace, byMeasure, byComponent, ended, newest);
        book = next;
        return next;
    }

    private static List<Series> joined(List<Series> one, List<Series> other) {
        var both = new ArrayList<>(one);
        both.addAll(other);
        return both;
    }

    public Collection<Measure> measures() {
        return book().byName().values().stream()
                .sorted(java.util.Comparator.comparing(Measure::name))
                .toList();
    }

    public Optional<Measure> measure(String name) {
        return Optional.ofNullable(book().byName().get(name));
    }

    /** The series of an id that the store gave out. */
    public Optional<Series> series(long id) {
        var found = book().series().get(id);
        return Optional.ofNullable(found != null ? found : refresh().series().get(id));
    }

    /** One that this node has heard of; null where it would have to be looked up. For who is within a transaction that stores. */
    public @Nullable Series known(long id) {
        var kept = book;
        return kept == null ? null : kept.series().get(id);
    }

    /** Those of a measure that are not over. */
    public List<Series> ofMeasure(String name) {
        return Collections.unmodifiableList(book().byMeasure().getOrDefault(name, List.of()));
    }

    /** All that was ever told of a component. */
    public List<Series> ofComponent(long component) {
        return Collections.unmodifiableList(book().byComponent().getOrDefault(component, List.of()));
    }

    public boolean ended(long id) {
        return book().ended().contains(id);
    }

    public Optional<Series> find(long component, String measure, Map<String, String> labels) {
        return Optional.ofNullable(book().byPlace().get(new Place(component, measure, labels)));
    }

    /** The components that a feed tells of. */
    public Set<Long> componentsOfFeed(long feed) {
        return book().series().values().stream()
                .filter(one -> one.feed() != null && one.feed() == feed)
                .map(Series::component)
                .collect(Collectors.toSet());
    }

    public int size() {
        return book().series().size();
    }

    /**
     * What is told of a series on first sight.
     *
     * @param promised how often it is promised itself; null where its feed's promise is all there is
     */
    public record Newcomer(
            long component,
            String measure,
            Sort sort,
            String unit,
            String help,
            Map<String, String> labels,
            boolean toldOnChange,
            @Nullable Duration promised) {
        public Newcomer(
                long component, String measure, Sort sort, String unit, String help, Map<String, String> labels) {
            this(component, measure, sort, unit, help, labels, false, null);
        }

        /** The same, told where it changes only. */
        public Newcomer onChange() {
            return new Newcomer(component, measure, sort, unit, help, labels, true, promised);
        }

        /** The same with a promise from the beginning: what is judged before it is known would be judged too far. */
        public Newcomer promising(Duration every) {
            return new Newcomer(component, measure, sort, unit, help, labels, toldOnChange, every);
        }
    }

    /** Takes in what is not known yet, in a transaction of its own, as the estate does. */
    public void register(Collection<Newcomer> newcomers, long feed) {
        ownTransaction.run(() -> add(newcomers, feed));
    }

    /**
     * Takes in words that states are told to have, in a transaction of its own. What is no state yet becomes one with its series.
     *
     * @param words by the name of the measure
     */
    public void addWords(Map<String, StateWords> words) {
        ownTransaction.run(() -> keepWords(words));
    }

    private void keepWords(Map<String, StateWords> words) {
        store.registerInTurn();
        for (var measure : store.measures()) {
            var told = words.get(measure.name());
            if (told == null || !measure.isState()) continue;
            var all = measure.stateWords().with(told.all());
            if (!all.equals(measure.stateWords())) store.keepWords(measure.id(), all);
        }
        tellOthers();
    }

    /** Keeps how often some series are promised themselves. */
    public void promise(Map<Long, Duration> every) {
        ownTransaction.run(() -> {
            every.forEach(store::promise);
            altered();
        });
    }

    /**
     * Some are over on purpose, in the running transaction: what they measured stays, and nothing watches them any more, so that
     * their alerts are over as well. One that is heard again is back by that.
     */
    public void end(Collection<Long> some) {
        if (some.isEmpty()) return;
        store.end(some, clock.instant());
        events.publishEvent(new SeriesEnded(some));
        altered();
    }

    @EventListener
    void on(ReadingsRecorded recorded) {
        var ended = book().ended();
        if (ended.isEmpty()) return;
        var heard =
                Arrays.stream(recorded.series()).filter(ended::contains).boxed().collect(Collectors.toSet());
        if (heard.isEmpty()) return;
        store.end(heard, null);
        altered();
    }

    private void altered() {
        notices.tell(ALTERED);
        afterCommit(this::readAnew);
    }

    private void readAnew() {
        synchronized (this) {
            book = null;
            refresh();
        }
        events.publishEvent(new SeriesAdded());
    }

    /** Takes in what Morvet counts itself. */
    public void registerOwn(Collection<Newcomer> newcomers) {
        ownTransaction.run(() -> add(newcomers, null));
    }

    private void add(Collection<Newcomer> newcomers, @Nullable Long feed) {
        store.registerInTurn();
        for (var one : newcomers)
            if (measure(one.measure()).isEmpty()) store.addMeasure(one.measure(), one.sort(), one.unit(), one.help());
        var known = new HashMap<String, Measure>();
        for (var measure : store.measures()) known.put(measure.name(), measure);
        for (var one : newcomers) {
            var measure = java.util.Objects.requireNonNull(known.get(one.measure()));
            store.addSeries(one, measure.id(), feed, clock.instant());
        }
        tellOthers();
    }

    /** Every interface has a series of its failed messages, from the moment it is known. */
    @EventListener
    void on(Estate.EstateChanged changed) {
        store.registerInTurn();
        if (store.addFailedSeries(clock.instant()) > 0) tellOthers();
    }

    @EventListener
    void on(org.springframework.boot.context.event.ApplicationReadyEvent ready) {
        ownTransaction.run(() -> on(new Estate.EstateChanged()));
    }

    private void tellOthers() {
        notices.tell(ADDED);
        afterCommit(() -> {
            refresh();
            events.publishEvent(new SeriesAdded());
        });
    }

    private static void afterCommit(Runnable then) {
        var running =
                org.springframework.transaction.support.TransactionSynchronizationManager.isSynchronizationActive();
        if (!running) then.run();
        else
            org.springframework.transaction.support.TransactionSynchronizationManager.registerSynchronization(
                    new org.springframework.transaction.support.TransactionSynchronization() {
                        @Override
                        public void afterCommit() {
                            then.run();
                        }
                    });
    }
}
