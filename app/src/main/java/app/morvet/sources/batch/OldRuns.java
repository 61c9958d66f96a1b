package app.morvet.sources.batch;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.MorvetSettings;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Runs are kept for so long, and what they wrote for a shorter time. Dropped some at a time, so that no lock lasts. */
@Component
class OldRuns implements AgedData {
    private static final int A_TIME = 5000;

    private final RunStore store;
    private final MorvetSettings settings;

    OldRuns(RunStore store, MorvetSettings settings) {
        this.store = store;
        this.settings = settings;
    }

    @Override
    public void dropOld(Instant now) {
        var runs = now.minus(settings.keepRuns());
        while (store.dropOutputs(now.minus(settings.keepOutputs()), A_TIME) == A_TIME) continue;
        while (store.dropStarts(runs, A_TIME) == A_TIME) continue;
        while (store.dropRuns(runs, A_TIME) == A_TIME) continue;
        store.dropFiles(runs);
    }
}
