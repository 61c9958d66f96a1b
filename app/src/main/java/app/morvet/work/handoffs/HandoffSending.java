package app.morvet.work.handoffs;

import app.morvet.core.handoff.BackOff;
import app.morvet.core.handoff.HandoffState;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.connections.Unanswered;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sends a ticket until the desk has it. Every try bears the same idempotency key, so one that got through without our
 * hearing of it is not made again.
 */
@Component
class HandoffSending implements Errand {
    static final BackOff BACK_OFF = new BackOff(Duration.ofSeconds(5), Duration.ofMinutes(2), Duration.ofHours(24));

    private final HandoffStore store;
    private final HandoffDesk handoffs;
    private final Desk desk;
    private final Desks desks;
    private final CaseBook cases;
    private final Errands errands;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Times times;

    HandoffSending(
            HandoffStore store,
            HandoffDesk handoffs,
            Desk desk,
            Desks desks,
            CaseBook cases,
            Errands errands,
            TransactionTemplate transaction,
            Live live,
            Times times) {
        this.store = store;
        this.handoffs = handoffs;
        this.desk = desk;
        this.desks = desks;
        this.cases = cases;
        this.errands = errands;
        this.transaction = transaction;
        this.live = live;
        this.times = times;
    }

    @Override
    public String name() {
        return HandoffDesk.SENDING;
    }

    @Override
    public Optional<Instant> run(String text) {
        var id = UUID.fromString(text);
        var handoff = store.byId(id).orElseThrow();
        if (handoff.state() != HandoffState.QUEUED) return Optional.empty();
        var connection = desks.byId(handoff.connection()).orElseThrow();
        try {
            var ticket = desk.create(connection, id, handoff.body());
            var now = times.now();
            transaction.executeWithoutResult(status -> {
                store.tried(id, now, true, "made ticket " + ticket.number());
                handoffs.follow(id, ticket, now);
                errands.at(now.plusSeconds(connection.pollSeconds()), HandoffDesk.FOLLOWING, text);
            });
            return Optional.empty();
        } catch (Unanswered failed) {
            return failed(handoff, failed);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return Optional.of(times.now());
        }
    }

    private Optional<Instant> failed(Handoff handoff, Unanswered failed) {
        var now = times.now();
        var firstTry = handoff.firstTry() == null ? now : handoff.firstTry();
        boolean givenUp = failed.lasting() || BACK_OFF.exhausted(Duration.between(firstTry, now));
        var next = givenUp
                ? Optional.<Instant>empty()
                : Optional.of(now.plus(BACK_OFF.after(handoff.failures() + 1, failed.asksToWait())));
        var words = failed.words();
        transaction.executeWithoutResult(status -> {
            store.tried(handoff.id(), now, false, words);
            store.failed(
                    handoff.id(), givenUp ? HandoffState.GIVEN_UP : HandoffState.QUEUED, now, next.orElse(null), words);
            if (givenUp) cases.log(handoff.caseId(), "ticket", "The ticket could not be delivered: " + words, now);
            else if (handoff.failures() == 0) cases.log(handoff.caseId(), "ticket", "The ticket waits: " + words, now);
            live.changed("handoffs");
            live.changed("now");
        });
        return next;
    }
}
