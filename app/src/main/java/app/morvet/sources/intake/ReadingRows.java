package app.morvet.sources.intake;

import app.morvet.core.readings.StateWords;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** From what feeds tell to rows: components, series and words that are new are registered, and the rest finds its series. */
@Component
class ReadingRows {
    /** A feed that labels by something endless would fill the estate; what is beyond this is refused. */
    private static final int MOST_SERIES = 200_000;

    private final Estate estate;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final ApplicationEventPublisher events;

    ReadingRows(Estate estate, SeriesBook series, ReadingBook readings, ApplicationEventPublisher events) {
        this.estate = estate;
        this.series = series;
        this.readings = readings;
        this.events = events;
    }

    /** What is a state stays one, and what is a number stays one: why what was told is neither here nor there, or null. */
    static @Nullable String unlike(Measure known, boolean isState) {
        if (known.isState() == isState) return null;
        return known.isState()
                ? known.name() + " is a state; send the word that it is in, not a number"
                : known.name() + " is a " + known.sort().word() + "; send a number, not a word";
    }

    /**
     * Stores what was prepared, in the running transaction.
     *
     * @throws IllegalArgumentException where a batch told one new measure both in words and in numbers
     */
    void write(long feed, List<Told> all) {
        var said = new ArrayList<StatesSaid.Said>();
        var ids = new long[all.size()];
        var times = new long[ids.length];
        var values = new double[ids.length];
        int size = 0;
        for (var one : all) {
            var state = one.state();
            // The words of a state may be others by now; the rest of a series stays.
            var found = one.of().found != null && state == null ? one.of().found : find(one.of());
            if (found == null) continue;
            one.of().found = found;
            double value =
                    state == null ? one.value() : found.measure().stateWords().place(state.word());
            var unlike = unlike(found.measure(), state != null);
            if (unlike != null) throw new IllegalArgumentException(unlike);
            if (!Double.isFinite(value) || state != null && value < 0) continue;
            if (state != null && !state.said().isEmpty())
                said.add(new StatesSaid.Said(found.id(), one.at(), (int) value, state.said()));
            ids[size] = found.id();
            times[size] = one.at();
            values[size++] = value;
        }
        readings.add(Arrays.copyOf(ids, size), Arrays.copyOf(times, size), Arrays.copyOf(values, size));
        if (!said.isEmpty()) events.publishEvent(new StatesSaid(feed, said));
    }

    private @Nullable Series find(ToldSeries one) {
        return estate.byKey(one.component)
                .flatMap(component -> series.find(component.id(), one.measure, one.labels))
                .orElse(null);
    }

    /**
     * Registers what is new and makes its days, before the transaction that stores it; who cannot have a series is taken out.
     *
     * @param onChange whether states are told only when they change
     */
    void prepare(List<Told> all, long feed, boolean onChange, Refusals refusals) {
        register(all, feed, onChange, refusals);
        readings.prepare(all.stream().mapToLong(Told::at).toArray());
    }

    private void register(List<Told> all, long feed, boolean onChange, Refusals refusals) {
        var told = new LinkedHashSet<ToldSeries>();
        for (var one : all) told.add(one.of());
        registerComponents(told);
        var newSeries = new LinkedHashSet<SeriesBook.Newcomer>();
        for (var one : told) {
            one.found = find(one);
            if (one.found == null)
                estate.byKey(one.component)
                        .ifPresent(component -> newSeries.add(new SeriesBook.Newcomer(
                                component.id(),
                                one.measure,
                                one.sort,
                                one.unit,
                                one.help,
                                one.labels,
                                onChange,
                                one.promised)));
        }
        registerSeries(all, feed, newSeries, refusals);
        var newWords = newWords(all);
        if (!newWords.isEmpty()) series.addWords(newWords);
    }

    private void registerComponents(Set<ToldSeries> told) {
        var newcomers = new LinkedHashMap<String, Estate.Newcomer>();
        for (var one : told) {
            if (estate.byKey(one.component).isPresent()) continue;
            var kind = Estate.KINDS.contains(one.kind) ? one.kind : "component";
            newcomers.putIfAbsent(one.component, new Estate.Newcomer(one.component, kind));
        }
        if (!newcomers.isEmpty()) estate.register(newcomers.values());
    }

    private void registerSeries(List<Told> all, long feed, Set<SeriesBook.Newcomer> newSeries, Refusals refusals) {
        if (newSeries.isEmpty()) return;
        if (series.size() + newSeries.size() <= MOST_SERIES) {
            series.register(newSeries, feed);
            return;
        }
        all.removeIf(one -> {
            boolean refused = one.of().found == null;
            if (refused)
                refusals.add(
                        one.place(),
                        one.of().named(),
                        "it would be a new series, and %,d are there already; does a label change all the time?"
                                .formatted(MOST_SERIES),
                        () -> "");
            return refused;
        });
    }

    private Map<String, StateWords> newWords(List<Told> all) {
        var newWords = new HashMap<String, StateWords>();
        for (var one : all) {
            var state = one.state();
            if (state == null) continue;
            var measure = one.of().measure;
            var words = newWords.containsKey(measure)
                    ? newWords.get(measure)
                    : series.measure(measure).map(Measure::stateWords).orElse(StateWords.NONE);
            if (!words.all().containsAll(state.words())) newWords.put(measure, words.with(state.words()));
        }
        return newWords;
    }
}
