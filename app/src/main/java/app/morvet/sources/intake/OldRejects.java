package app.morvet.sources.intake;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.MorvetSettings;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** What was refused is kept for as long as failed messages are. Dropped some at a time, so that no lock lasts. */
@Component
class OldRejects implements AgedData {
    private static final int A_TIME = 5000;

    private final RejectStore store;
    private final MorvetSettings settings;

    OldRejects(RejectStore store, MorvetSettings settings) {
        this.store = store;
        this.settings = settings;
    }

    @Override
    public void dropOld(Instant now) {
        while (store.drop(now.minus(settings.keepMessages()), A_TIME) == A_TIME) continue;
    }
}
