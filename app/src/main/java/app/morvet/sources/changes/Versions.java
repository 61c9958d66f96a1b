package app.morvet.sources.changes;

import app.morvet.core.changes.Infos;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.intake.InfosArrived;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Whether each component runs the version that its like run: those of its kind in its application. It is a state as any other,
 * told when it changes, so guards call on it, and its past is replayed and shown as that of what is told from outside.
 */
@Component
class Versions {
    private static final String SAME = "same";
    private static final String DIFFERENT = "different";
    private static final StateWords WORDS = new StateWords(List.of(SAME, DIFFERENT));
    private static final String HELP = "Whether it runs the version that others of its kind run in its application.";

    private final ChangeStore store;
    private final Estate estate;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final States states;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Versions(
            ChangeStore store,
            Estate estate,
            SeriesBook series,
            ReadingBook readings,
            States states,
            TransactionTemplate transaction,
            Clock clock) {
        this.store = store;
        this.estate = estate;
        this.series = series;
        this.readings = readings;
        this.states = states;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Those that are alike: of one kind in one application. */
    private record Like(long application, String kind) {}

    private record Said(Estate.Component component, String info, boolean differs) {
        Map<String, String> labels() {
            return Map.of("info", info);
        }
    }

    /** Once what was said is kept. It begins transactions of its own, one after the other. */
    @EventListener
    @Order(2)
    void on(InfosArrived arrived) {
        var likes = new LinkedHashSet<Like>();
        for (var info : arrived.infos())
            if (info.labels().containsKey(Infos.VERSION))
                estate.byKey(info.component())
                        .filter(one -> one.applicationId() != null)
                        .ifPresent(one -> likes.add(like(one)));
        var said = new ArrayList<Said>();
        for (var like : likes) said.addAll(said(like));
        if (!said.isEmpty()) tell(said);
    }

    private static Like like(Estate.Component one) {
        return new Like(Objects.requireNonNull(one.applicationId()), one.kind());
    }

    private List<Said> said(Like like) {
        var all = estate.components().stream()
                .filter(one -> one.applicationId() != null && like(one).equals(like))
                .toList();
        var byInfo = new HashMap<String, Map<Long, String>>();
        store.infos(all.stream().map(Estate.Component::id).toList())
                .forEach((component, infos) -> infos.forEach((name, labels) -> {
                    var version = labels.get(Infos.VERSION);
                    if (version != null)
                        byInfo.computeIfAbsent(name, none -> new HashMap<>()).put(component, version);
                }));
        var said = new ArrayList<Said>();
        byInfo.forEach((info, versions) -> Infos.differing(versions)
                .forEach((component, differs) -> said.add(new Said(estate.component(component), info, differs))));
        return said;
    }

    private void tell(List<Said> said) {
        series.registerOwn(said.stream()
                .filter(one -> series.find(one.component().id(), Changes.VERSION, one.labels())
                        .isEmpty())
                .map(one -> new SeriesBook.Newcomer(
                                one.component().id(), Changes.VERSION, Sort.STATE, WORDS.text(), HELP, one.labels())
                        .onChange())
                .toList());
        var of = new HashMap<Said, Series>();
        for (var one : said)
            series.find(one.component().id(), Changes.VERSION, one.labels())
                    .filter(it -> it.measure().stateWords().all().containsAll(WORDS.all()))
                    .ifPresent(it -> of.put(one, it));
        var now = states.of(of.values().stream().map(Series::id).toList());
        var fresh = of.entrySet().stream()
                .filter(one -> {
                    var known = now.get(one.getValue().id());
                    return known == null || known.place() != place(one);
                })
                .toList();
        if (fresh.isEmpty()) return;
        long at = Micros.of(clock.instant());
        var times = fresh.stream().mapToLong(one -> at).toArray();
        readings.prepare(times);
        transaction.executeWithoutResult(status -> readings.add(
                fresh.stream().mapToLong(one -> one.getValue().id()).toArray(),
                times,
                fresh.stream().mapToDouble(Versions::place).toArray()));
    }

    private static int place(Map.Entry<Said, Series> one) {
        return one.getValue().measure().stateWords().place(one.getKey().differs() ? DIFFERENT : SAME);
    }
}
