package app.morvet.sources.checks;

import app.morvet.core.checks.Result;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.page.Live;
import app.morvet.sources.intake.StatesSaid;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** What comes of checks becomes readings as of anything measured: a state, the time it took, the days that a certificate has left. */
@Component
class CheckResults {
    static final String STATE = "check";
    private static final String TIME = "check_time";
    private static final String DAYS_LEFT = "certificate_days_left";
    private static final int LONGEST_PASSED = 65_536;
    private static final StateWords WORDS = new StateWords(Result.WORDS);

    private final CheckStore store;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final States states;
    private final TransactionTemplate transaction;
    private final ApplicationEventPublisher events;
    private final Live live;

    CheckResults(
            CheckStore store,
            SeriesBook series,
            ReadingBook readings,
            States states,
            TransactionTemplate transaction,
            ApplicationEventPublisher events,
            Live live) {
        this.store = store;
        this.series = series;
        this.readings = readings;
        this.states = states;
        this.transaction = transaction;
        this.events = events;
        this.live = live;
    }

    void keep(StoredCheck check, Instant at, Result result) {
        var labels = Map.of(STATE, check.name());
        register(check, labels, !Double.isNaN(result.daysLeft()));
        var state = find(check, STATE, labels);
        var told = new ArrayList<Series>(List.of(state, find(check, TIME, labels)));
        int place = state.measure().stateWords().place(result.state());
        var values = new double[] {place, result.took().toMillis() / 1000.0, result.daysLeft()};
        if (!Double.isNaN(result.daysLeft())) told.add(find(check, DAYS_LEFT, labels));
        promise(check, told);
        long micros = Micros.of(at);
        var times = new long[told.size()];
        Arrays.fill(times, micros);
        readings.prepare(times);
        boolean passed = result.state().equals(Result.PASSED);
        transaction.executeWithoutResult(status -> {
            readings.add(told.stream().mapToLong(Series::id).toArray(), times, Arrays.copyOf(values, told.size()));
            if (!passed)
                events.publishEvent(new StatesSaid(
                        null,
                        List.of(new StatesSaid.Said(
                                state.id(),
                                micros,
                                place,
                                result.said().isEmpty() || result.said().equals(result.why())
                                        ? result.why()
                                        : result.why() + "\n\n" + result.said()))));
            store.keepResult(check.id(), at, result, passed ? PlainText.cut(result.said(), LONGEST_PASSED) : "");
            live.changed(States.TOPIC);
        });
    }

    /** It is not asked any more, so nothing of it is known now. */
    void forget(StoredCheck check) {
        series.find(check.component(), STATE, Map.of(STATE, check.name()))
                .ifPresent(one -> states.forget(List.of(one.id())));
        live.changed(States.TOPIC);
    }

    /** What came of it before it was there, all at once. */
    void keepPast(StoredCheck check, List<Checks.PastRun> runs) {
        var labels = Map.of(STATE, check.name());
        register(check, labels, false);
        var state = find(check, STATE, labels);
        var took = find(check, TIME, labels);
        promise(check, List.of(state, took));
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
            if (!run.result().state().equals(Result.PASSED))
                said.add(new StatesSaid.Said(
                        state.id(), times[2 * i], place, run.result().why()));
        }
        readings.prepare(times);
        transaction.executeWithoutResult(status -> {
            readings.add(ids, times, values);
            if (!said.isEmpty()) events.publishEvent(new StatesSaid(null, said));
        });
    }

    private Series find(StoredCheck check, String measure, Map<String, String> labels) {
        return series.find(check.component(), measure, labels)
                .orElseThrow(() -> new IllegalStateException(measure + " is told from outside, and is something else"));
    }

    private void register(StoredCheck check, Map<String, String> labels, boolean certificate) {
        var all = new ArrayList<SeriesBook.Newcomer>();
        all.add(new SeriesBook.Newcomer(
                check.component(), STATE, Sort.STATE, WORDS.text(), "What came of a check.", labels));
        all.add(new SeriesBook.Newcomer(
                check.component(), TIME, Sort.GAUGE, "seconds", "How long a check took.", labels));
        if (certificate)
            all.add(new SeriesBook.Newcomer(
                    check.component(), DAYS_LEFT, Sort.GAUGE, "", "Days until it runs out.", labels));
        all.removeIf(one -> series.find(one.component(), one.measure(), labels).isPresent());
        if (!all.isEmpty()) series.registerOwn(all);
        var words = series.measure(STATE).map(it -> it.stateWords().all()).orElse(List.of());
        if (!words.containsAll(WORDS.all())) series.addWords(Map.of(STATE, WORDS));
    }

    private void promise(StoredCheck check, List<Series> told) {
        var changed = new java.util.HashMap<Long, java.time.Duration>();
        told.stream()
                .filter(one -> !check.every().equals(one.promised()))
                .forEach(one -> changed.put(one.id(), check.every()));
        if (!changed.isEmpty()) series.promise(changed);
    }
}
