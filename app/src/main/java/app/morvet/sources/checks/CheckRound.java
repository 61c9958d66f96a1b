package app.morvet.sources.checks;

import app.morvet.ground.base.Rounds;
import app.morvet.ground.estate.Pauses;
import app.morvet.probe.Around;
import java.time.Clock;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Has checks run when they are due, each on a thread of its own, so that one that hangs holds up no other; of one host at most
 * four at once. Any node takes what is due, and what one takes no other does.
 */
@Component
class CheckRound extends Rounds {
    private static final Logger log = LoggerFactory.getLogger(CheckRound.class);
    /** So late is one at most that is due, of a shortest cadence of ten seconds. */
    private static final Duration LOOKED_AT_EVERY = Duration.ofMillis(500);

    private static final int A_TIME = 200;
    private static final int STORING_AT_ONCE = 4;

    private final CheckStore store;
    private final Asking asking;
    private final CheckResults results;
    private final TransactionTemplate transaction;
    private final Pauses pauses;
    private final Clock clock;
    private final Semaphore storing = new Semaphore(STORING_AT_ONCE);

    CheckRound(
            CheckStore store,
            Asking asking,
            CheckResults results,
            TransactionTemplate transaction,
            Pauses pauses,
            Clock clock) {
        super("checks", new Undone("Checks do not run", "Checks run late", "/services/checks"), LOOKED_AT_EVERY);
        this.store = store;
        this.asking = asking;
        this.results = results;
        this.transaction = transaction;
        this.pauses = pauses;
        this.clock = clock;
    }

    /** One is due, or another than before. */
    void lookAgain() {
        wake();
    }

    @Override
    protected boolean round() {
        var now = clock.instant();
        // What one node takes no other does; the times of a cron expression are known here only.
        var due = transaction.execute(status -> {
            var taken = store.takeDue(now, A_TIME);
            for (var one : taken)
                if (!one.check().every().cron().isEmpty())
                    store.due(one.check().id(), one.check().every().next(now, now));
            return taken;
        });
        for (var one : due)
            if (!pauses.component(one.check().component()))
                Thread.ofVirtual().name("check-" + one.check().id()).start(() -> run(one));
        return due.size() == A_TIME;
    }

    private void run(StoredCheck.Due due) {
        var check = due.check();
        try {
            var around = new Around(due.secrets().headers(), due.secrets().logIn(), due.memory(), clock.instant());
            var result = asking.ask(check.look().target(), around, check.tries());
            // They come in at once, and the store is not for them alone.
            storing.acquire();
            try {
                // What was changed or switched off while it was asked is another check now.
                boolean asBefore = store.byId(check.id())
                        .filter(now -> now.active() && now.version() == check.version())
                        .isPresent();
                if (asBefore) results.keep(check, clock.instant(), result);
            } finally {
                storing.release();
            }
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        } catch (RuntimeException failed) {
            log.warn("the check {} could not be kept", check.id(), failed);
        }
    }
}
