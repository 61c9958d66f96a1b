package app.morvet.sources.checks;

import app.morvet.core.checks.Agreement;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.StateWords;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.sources.intake.InfosArrived;
import app.morvet.sources.intake.StatesSaid;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * What comes of checks becomes readings as of anything measured: a state, the time it took, and what was measured beside; what
 * is seen to differ becomes a change.
 */
@Component
class CheckResults {
    static final String STATE = Result.MEASURE;
    static final String FROM = "from";
    private static final String TIME = "check_time";
    private static final int LONGEST_PASSED = 65_536;
    /** What was heard from an outpost counts for so many cadences. */
    private static final int LATELY = 3;

    private final CheckStore store;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final Estate estate;
    private final TransactionTemplate transaction;
    private final ApplicationEventPublisher events;
    private final Live live;

    CheckResults(
            CheckStore store,
            SeriesBook series,
            ReadingBook readings,
            Estate estate,
            TransactionTemplate transaction,
            ApplicationEventPublisher events,
            Live live) {
        this.store = store;
        this.series = series;
        this.readings = readings;
        this.estate = estate;
        this.transaction = transaction;
        this.events = events;
        this.live = live;
    }

    void keep(StoredCheck check, Instant at, Result result) {
        keep(check, at, result, () -> {});
    }

    /** What came of it from an outpost: that counts where it asks alone, else what those that ask make of it together. */
    void keep(StoredCheck check, Outpost outpost, Instant at, Result result, Instant now, Map<Long, String> names) {
        if (check.from().size() == 1) {
            keep(check, at, result, () -> store.keepFrom(check.id(), outpost.id(), at, result));
            return;
        }
        var own = ready(check, Map.of(STATE, check.name(), FROM, outpost.name()), at, result);
        transaction.executeWithoutResult(status -> {
            store.keepFrom(check.id(), outpost.id(), at, result);
            write(own, result);
        });
        var lately = check.every().every().multipliedBy(LATELY);
        if (at.plus(lately).isBefore(now)) return;
        var heard = store.heard(check.id()).stream()
                .filter(one -> one.at() != null && one.at().plus(lately).isAfter(now))
                .toList();
        if (!heard.isEmpty()) keep(check, at, together(check, heard, result, names));
    }

    private static Result together(
            StoredCheck check, List<CheckStore.Heard> heard, Result last, Map<Long, String> names) {
        var state = Agreement.of(
                heard.stream().map(one -> String.valueOf(one.state())).toList(), check.agree());
        if (state.equals(Result.PASSED)) return Result.of(List.of(), last.took(), last.said());
        var verdicts = heard.stream()
                .map(one -> Verdict.of(
                        "it to pass from " + names.getOrDefault(one.outpost(), "an outpost"),
                        Result.PASSED.equals(one.state()),
                        one.state() + (one.why().isEmpty() ? "" : " (" + one.why() + ")")))
                .toList();
        var said = state.equals(Result.NO_ANSWER)
                ? verdicts.stream()
                        .filter(one -> !one.met())
                        .map(one -> one.expected() + ": " + one.found())
                        .reduce((a, b) -> a + "\n" + b)
                        .orElse("")
                : last.said();
        return new Result(state, last.took(), verdicts, said, List.of(), Map.of(), "");
    }

    /** @param beside what is stored with it */
    private void keep(StoredCheck check, Instant at, Result result, Runnable beside) {
        var ready = ready(check, Map.of(STATE, check.name()), at, result);
        transaction.executeWithoutResult(status -> {
            beside.run();
            write(ready, result);
            store.keepResult(
                    check.id(), at, result, result.passed() ? PlainText.cut(result.said(), LONGEST_PASSED) : "");
        });
        if (result.facts().isEmpty()) return;
        var facts = new TreeMap<String, String>();
        result.facts().forEach((name, value) -> facts.put(name, PlainText.cut(PlainText.of(value), 500)));
        events.publishEvent(new InfosArrived(
                null,
                List.of(new InfosArrived.Told(
                        estate.component(check.component()).key(), check.name(), facts, at))));
    }

    /** What is to be stored, with its series registered and its day made. */
    private record Ready(List<Series> series, long[] times, double[] values) {}

    /** Outside of the transaction that stores it: what is new is registered in one of its own, over a connection of its own. */
    private Ready ready(StoredCheck check, Map<String, String> labels, Instant at, Result result) {
        var figures = new ArrayList<Result.Figure>();
        figures.add(Result.Figure.state(STATE, Result.WORDS, result.state()));
        figures.add(Result.Figure.gauge(TIME, "seconds", result.took().toMillis() / 1000.0));
        // What is told from elsewhere under the same name, and is a state there and a number here, is left out.
        result.figures().stream()
                .filter(one -> series.measure(one.measure())
                        .map(known -> known.isState() != one.words().isEmpty())
                        .orElse(true))
                .forEach(figures::add);
        var told = register(check, labels, figures);
        promise(check, told);
        var times = new long[told.size()];
        java.util.Arrays.fill(times, Micros.of(at));
        readings.prepare(times);
        var values = new double[told.size()];
        for (int i = 0; i < values.length; i++) {
            var figure = figures.get(i);
            values[i] = figure.words().isEmpty()
                    ? figure.value()
                    : told.get(i).measure().stateWords().place(figure.words().get((int) figure.value()));
        }
        return new Ready(told, times, values);
    }

    private void write(Ready ready, Result result) {
        readings.add(ready.series().stream().mapToLong(Series::id).toArray(), ready.times(), ready.values());
        if (!result.passed())
            events.publishEvent(new StatesSaid(
                    null,
                    List.of(new StatesSaid.Said(
                            ready.series().getFirst().id(), ready.times()[0], (int) ready.values()[0], said(result)))));
        live.changed(States.TOPIC);
    }

    private static String said(Result result) {
        return result.said().isEmpty() || result.said().equals(result.why())
                ? result.why()
                : result.why() + "\n\n" + result.said();
    }

    /** It is not asked any more, so nothing of it is known now. */
    void forget(StoredCheck check) {
        var all = series.ofComponent(check.component()).stream()
                .filter(one -> one.measure().isState()
                        && check.name().equals(one.labels().get(STATE)))
                .map(Series::id)
                .toList();
        series.end(all);
        live.changed(States.TOPIC);
    }

    /** What came of it before it was there, all at once. */
    void keepPast(StoredCheck check, List<Checks.PastRun> runs) {
        var figures = List.of(
                Result.Figure.state(STATE, Result.WORDS, Result.PASSED), Result.Figure.gauge(TIME, "seconds", 0));
        var told = register(check, Map.of(STATE, check.name()), figures);
        var state = told.get(0);
        var took = told.get(1);
        promise(check, told);
        var ids = new long[runs.size() * 2];
        var times = new long[ids.length];
        var values = new double[ids.length];
        var said = new ArrayList<StatesSaid.Said>();
        for (int i = 0; i < runs.size(); i++) {
            var run = runs.get(i);
            int place = state.measure().stateWords().place(run.result().state());
            times[2 * i] = times[2 * i + 1] = Micros.of(run.at());
            ids[2 * i] = state.id();
            values[2 * i] = place;
            ids[2 * i + 1] = took.id();
            values[2 * i + 1] = run.result().took().toMillis() / 1000.0;
            if (!run.result().passed())
                said.add(new StatesSaid.Said(
                        state.id(), times[2 * i], place, run.result().why()));
        }
        readings.prepare(times);
        transaction.executeWithoutResult(status -> {
            readings.add(ids, times, values);
            if (!said.isEmpty()) events.publishEvent(new StatesSaid(null, said));
        });
    }

    /** The series of figures, in their order, made where they are new. */
    private List<Series> register(StoredCheck check, Map<String, String> labels, List<Result.Figure> figures) {
        var fresh = new ArrayList<SeriesBook.Newcomer>();
        var words = new HashMap<String, StateWords>();
        for (var one : figures) {
            var known = series.measure(one.measure());
            boolean lacks = !one.words().isEmpty()
                    && known.map(it -> !it.stateWords().all().containsAll(one.words()))
                            .orElse(false);
            if (lacks) words.put(one.measure(), new StateWords(one.words()));
            if (series.find(check.component(), one.measure(), labelled(labels, one))
                    .isEmpty())
                fresh.add(new SeriesBook.Newcomer(
                                check.component(),
                                one.measure(),
                                one.sort(),
                                one.words().isEmpty() ? one.unit() : new StateWords(one.words()).text(),
                                one.measure().equals(STATE) ? "What came of a check." : "Measured by a check.",
                                labelled(labels, one))
                        .promising(check.every().every()));
        }
        if (!fresh.isEmpty()) series.registerOwn(fresh);
        if (!words.isEmpty()) series.addWords(words);
        return figures.stream()
                .map(one -> series.find(check.component(), one.measure(), labelled(labels, one))
                        .orElseThrow(() -> new IllegalStateException(
                                one.measure() + " is told from outside, and is something else")))
                .toList();
    }

    /** A state beside the check's own is one of the component, whoever looks. */
    private static Map<String, String> labelled(Map<String, String> labels, Result.Figure figure) {
        if (!figure.words().isEmpty() && !figure.measure().equals(STATE)) return Map.of();
        if (figure.labels().isEmpty()) return labels;
        var all = new TreeMap<>(labels);
        figure.labels().forEach((name, value) -> all.putIfAbsent(name, PlainText.of(value)));
        return all;
    }

    private void promise(StoredCheck check, List<Series> told) {
        var changed = new HashMap<Long, Duration>();
        told.stream()
                .filter(one -> !check.every().every().equals(one.promised()))
                .forEach(one -> changed.put(one.id(), check.every().every()));
        if (!changed.isEmpty()) series.promise(changed);
    }
}
