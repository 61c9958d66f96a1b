package app.morvet.rules.guards;

import app.morvet.ground.base.Derived;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** Replays the guards in the background, so that the list can say what is doubtful about them. */
@Component
class DoubtRefresh implements Errand, Derived {
    private static final Duration SPAN = Duration.ofDays(14);
    private static final Duration EVERY = Duration.ofHours(6);
    static final String NAME = "doubt-guards";
    private static final String ALL = "all";
    private static final String CHANGED = "changed";
    private static final int A_TIME = 50;
    private static final Duration RESTS = Duration.ofSeconds(10);

    private final GuardStore store;
    private final Guards guards;
    private final Replays replays;
    private final Doubts doubts;
    private final Errands errands;
    private final Clock clock;
    private volatile boolean resting;

    DoubtRefresh(GuardStore store, Guards guards, Replays replays, Doubts doubts, Errands errands, Clock clock) {
        this.store = store;
        this.guards = guards;
        this.replays = replays;
        this.doubts = doubts;
        this.errands = errands;
        this.clock = clock;
    }

    @Override
    public String name() {
        return NAME;
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        errands.unlessWaiting(clock.instant().plusSeconds(90), name(), ALL);
    }

    @TransactionalEventListener(fallbackExecution = true)
    void on(GuardChanged changed) {
        errands.at(clock.instant().plusSeconds(2), name(), CHANGED);
    }

    @Override
    public int atOnce() {
        return 1;
    }

    @Override
    public Optional<Instant> run(String id) {
        if (resting) return Optional.of(clock.instant().plus(RESTS));
        if (id.equals(CHANGED)) {
            var some = store.notDoubted(A_TIME);
            some.forEach(this::look);
            return some.isEmpty() ? Optional.empty() : Optional.of(clock.instant());
        }
        store.all().forEach(this::look);
        return Optional.of(clock.instant().plus(EVERY));
    }

    @Override
    public void rest() {
        resting = true;
    }

    /** Somebody waits for it, so on all cores; in the background one is enough. */
    @Override
    public void reckon() {
        try {
            store.all().parallelStream().forEach(this::look);
        } finally {
            resting = false;
        }
    }

    private void look(StoredGuard guard) {
        var to = clock.instant();
        var taken = replays.afresh(guard.rule(), guard.watch(), to.minus(SPAN), to);
        var said =
                new ArrayList<>(doubts.plain(guard.rule(), guard.watch(), guards.matches(guard.rule(), guard.watch())));
        said.addAll(doubts.shown(guard.rule(), taken));
        doubts.remember(guard, said);
    }
}
