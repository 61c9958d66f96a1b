package app.morvet.guards;

import app.morvet.base.Errand;
import app.morvet.base.Errands;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** Replays the guards in the background, so that the list can say which limits lie beyond anything ever seen. */
@Component
class DoubtRefresh implements Errand {
    private static final Duration SPAN = Duration.ofDays(14);
    private static final Duration EVERY = Duration.ofHours(6);
    private static final String ALL = "all";

    private final GuardStore store;
    private final Replays replays;
    private final Doubts doubts;
    private final Errands errands;
    private final Clock clock;

    DoubtRefresh(GuardStore store, Replays replays, Doubts doubts, Errands errands, Clock clock) {
        this.store = store;
        this.replays = replays;
        this.doubts = doubts;
        this.errands = errands;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "doubt-guards";
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        errands.at(clock.instant().plusSeconds(90), name(), ALL);
    }

    @TransactionalEventListener(fallbackExecution = true)
    void on(GuardChanged changed) {
        errands.at(clock.instant().plusSeconds(2), name(), Long.toString(changed.guard()));
    }

    @Override
    public Optional<Instant> run(String id) {
        if (!id.equals(ALL)) {
            store.byId(Long.parseLong(id)).filter(guard -> !guard.deleted()).ifPresent(this::look);
            return Optional.empty();
        }
        store.all().forEach(this::look);
        return Optional.of(clock.instant().plus(EVERY));
    }

    private void look(StandingGuard guard) {
        var to = clock.instant().truncatedTo(ChronoUnit.HOURS);
        var taken = replays.take(guard.rule(), guard.watch(), to.minus(SPAN), to);
        doubts.remember(guard, doubts.shown(guard.rule(), taken));
    }
}
