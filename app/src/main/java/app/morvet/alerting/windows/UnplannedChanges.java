package app.morvet.alerting.windows;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.ground.base.Rounds;
import app.morvet.sources.changes.Changes;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Counts the changes that no window had planned, a series of each component, so that a guard can call on them. On a thread of its
 * own, since a series that is new is a transaction of its own; one that comes amid a crash is listed and not counted.
 */
@Component
class UnplannedChanges extends Rounds {
    private static final String HELP = "Changes that were seen while no window was over the component.";
    private static final int A_TIME = 5000;

    private final Windows windows;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final TransactionTemplate transaction;
    private final Queue<Changes.ChangeSeen> seen = new ConcurrentLinkedQueue<>();

    UnplannedChanges(Windows windows, SeriesBook series, ReadingBook readings, TransactionTemplate transaction) {
        super(
                "unplanned-changes",
                new Undone(
                        "Unplanned changes are not counted", "Unplanned changes are counted late", "/estate/changes"),
                Duration.ofMinutes(1));
        this.windows = windows;
        this.series = series;
        this.readings = readings;
        this.transaction = transaction;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(Changes.ChangeSeen change) {
        seen.add(change);
        wake();
    }

    @Override
    protected boolean round() {
        var some = new ArrayList<Changes.ChangeSeen>();
        while (some.size() < A_TIME) {
            var one = seen.poll();
            if (one == null) break;
            if (windows.covering(one.component(), one.at()).isEmpty()) some.add(one);
        }
        if (some.isEmpty()) return !seen.isEmpty();
        series.registerOwn(some.stream()
                .filter(one -> series.find(one.component(), Measure.UNPLANNED_CHANGES, Map.of())
                        .isEmpty())
                .map(one -> new SeriesBook.Newcomer(
                        one.component(), Measure.UNPLANNED_CHANGES, Sort.COUNT, "changes", HELP, Map.of()))
                .toList());
        var times = some.stream().mapToLong(one -> Micros.of(one.at())).toArray();
        var values = new double[times.length];
        java.util.Arrays.fill(values, 1);
        readings.prepare(times);
        transaction.executeWithoutResult(status -> readings.add(
                some.stream()
                        .map(one -> series.find(one.component(), Measure.UNPLANNED_CHANGES, Map.of())
                                .orElseThrow())
                        .mapToLong(Series::id)
                        .toArray(),
                times,
                values));
        return !seen.isEmpty();
    }
}
