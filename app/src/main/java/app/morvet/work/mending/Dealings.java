package app.morvet.work.mending;

import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessagesDealt;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseOpenAgain;
import app.morvet.work.cases.CaseSettled;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Deals with failed messages: they want nobody any more, and who said so, when and why stays with them. Whoever settles a case
 * deals with its messages. Alerts are told of it when it can no longer be undone, so that a slip clears none.
 */
@Service
public class Dealings implements Errand {
    /** As for cases: ten seconds on the page, and a little for the way. */
    static final Duration UNDO = Duration.ofSeconds(15);

    private static final String TELLING = "dealings-told";

    private final DealingStore store;
    private final CaseBook cases;
    private final Errands errands;
    private final ApplicationEventPublisher events;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Times times;

    Dealings(
            DealingStore store,
            CaseBook cases,
            Errands errands,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Live live,
            Times times) {
        this.store = store;
        this.cases = cases;
        this.errands = errands;
        this.events = events;
        this.transaction = transaction;
        this.live = live;
        this.times = times;
    }

    /** What was done, and by what id it is undone. */
    record Outcome(long dealing, long messages) {}

    /**
     * Deals with those of some messages that are open.
     *
     * @throws IllegalArgumentException where none is
     */
    @Transactional
    public Outcome deal(List<MessageId> messages, SettleReason reason, String note, Person by) {
        if (note.length() > 2000)
            throw new IllegalArgumentException("A note has at most 2,000 characters, these are " + note.length() + ".");
        var at = times.now();
        long dealing = store.add(at, by.id(), "DEALT", reason.words(), note.strip(), null);
        var dealt = store.deal(dealing, messages);
        long all = dealt.stream().mapToLong(DealingStore.Dealt::messages).sum();
        if (all == 0) throw new IllegalArgumentException("None of these is open any more.");
        var open = cases.openByFamily();
        for (var one : dealt) {
            var about = open.of(one.component(), one.family()).orElse(null);
            if (about == null) continue;
            cases.log(
                    about.id(),
                    "messages",
                    "%s dealt with %,d of its messages as %s%s"
                            .formatted(
                                    by.name(),
                                    one.messages(),
                                    reason.words(),
                                    note.isBlank() ? "" : ": " + note.strip()),
                    at);
        }
        tellPages(at);
        return new Outcome(dealing, all);
    }

    /** @throws IllegalArgumentException where it is too late, or somebody else did it */
    @Transactional
    public long undo(long dealing, Person by) {
        var at = times.now();
        var done = store.lock(dealing)
                .filter(one -> !one.undone()
                        && Long.valueOf(by.id()).equals(one.person())
                        && one.caseId() == null
                        && !one.at().plus(UNDO).isBefore(at))
                .orElseThrow(() -> new IllegalArgumentException("This can no longer be undone."));
        long again = store.undo(done.id(), at);
        live.changed("messages");
        return again;
    }

    @EventListener
    void on(CaseSettled settled) {
        var one = settled.one();
        long dealing = store.add(settled.at(), settled.person(), "SETTLED", settled.reason(), settled.why(), one.id());
        long all = 0;
        for (var scope : settled.scopes())
            all += store.deal(dealing, scope, one.firstSeen(), settled.at()).stream()
                    .mapToLong(DealingStore.Dealt::messages)
                    .sum();
        if (all == 0) store.forget(dealing);
        else tellPages(settled.at());
    }

    @EventListener
    void on(CaseOpenAgain again) {
        store.ofSettling(again.caseId()).forEach(dealing -> store.undo(dealing, again.at()));
        live.changed("messages");
    }

    private void tellPages(Instant at) {
        live.changed("messages");
        // What is done in a past that is gone through is told at once.
        if (at.plus(UNDO).isBefore(times.now())) events.publishEvent(new MessagesDealt());
        else errands.unlessWaiting(at.plus(UNDO), TELLING, "all");
    }

    @Override
    public String name() {
        return TELLING;
    }

    @Override
    public Optional<Instant> run(String id) {
        transaction.executeWithoutResult(status -> events.publishEvent(new MessagesDealt()));
        live.changed("messages");
        return Optional.empty();
    }
}
