package app.morvet.work.mending;

import app.morvet.core.handoff.BackOff;
import app.morvet.core.messages.SendOrder;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.connections.Unanswered;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessagesDealt;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sends failed messages again, one after the other, at the rate that was chosen. Each is put down as sent before it is, and
 * its outcome after: whatever dies in between, nothing is sent twice and nothing is forgotten. While the middleware does not
 * answer the run waits and tries on; where trying cannot help it pauses and says why.
 */
@Service
public class Sendings implements Errand {
    static final int FASTEST = 6000;
    private static final Duration STRETCH = Duration.ofSeconds(4);
    private static final BackOff BACK_OFF =
            new BackOff(Duration.ofSeconds(2), Duration.ofMinutes(1), Duration.ofMinutes(30));
    private static final int MOST_TRIES = 12;

    private final SendingStore store;
    private final DealingStore dealings;
    private final Middleware middleware;
    private final Connections connections;
    private final Estate estate;
    private final Errands errands;
    private final Audit audit;
    private final ApplicationEventPublisher events;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Times times;

    Sendings(
            SendingStore store,
            DealingStore dealings,
            Middleware middleware,
            Connections connections,
            Estate estate,
            Errands errands,
            Audit audit,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Live live,
            Times times) {
        this.store = store;
        this.dealings = dealings;
        this.middleware = middleware;
        this.connections = connections;
        this.estate = estate;
        this.errands = errands;
        this.audit = audit;
        this.events = events;
        this.transaction = transaction;
        this.live = live;
        this.times = times;
    }

    /**
     * Has messages sent again.
     *
     * @param dealtToo  whether those as well that are dealt with or only counted: what was done by hand is then done twice
     * @param about     what all of these messages are, in words
     * @param perMinute how fast, 1 to 6,000
     * @return the id of the run
     * @throws IllegalArgumentException where none of them may be, or the rate is none
     */
    @Transactional
    public long start(List<MessageId> messages, boolean dealtToo, String about, int perMinute, Person by) {
        if (perMinute < 1 || perMinute > FASTEST)
            throw new IllegalArgumentException("The rate is 1 to 6,000 a minute.");
        var may = store.sendable(messages, dealtToo);
        if (may.isEmpty())
            throw new IllegalArgumentException(
                    "None of these may be sent again: their sorting rules do not allow it, they are on their way or delivered already, or none of them is open.");
        var inOrder = SendOrder.oldestFirst(
                may,
                one -> new SendOrder.Waiting(one.message().at(), one.message().id(), one.businessKey()));
        var at = times.now();
        long dealing = dealings.add(at, by.id(), "SENT_AGAIN", "", "", null);
        var sent = inOrder.size() == messages.size() ? about : "%,d of %s".formatted(inOrder.size(), about);
        long run = store.add(at, by.id(), sent, perMinute, dealing, inOrder);
        audit.record(
                by,
                "sent again",
                "sending " + run,
                null,
                "%,d messages, %d a minute: %s".formatted(inOrder.size(), perMinute, sent));
        errands.at(at, name(), String.valueOf(run));
        live.changed("sendings");
        return run;
    }

    /** Pauses, goes on with or stops a run; one that has ended stays as it is. */
    @Transactional
    public void turn(long id, SendingStore.RunState to, Person by) {
        var run = store.lock(id);
        boolean over = run.state() == SendingStore.RunState.DONE || run.state() == SendingStore.RunState.STOPPED;
        if (over || run.state() == to || to == SendingStore.RunState.DONE) return;
        var at = times.now();
        store.state(id, to, to == SendingStore.RunState.STOPPED ? at : null);
        switch (to) {
            case STOPPED -> store.notSent(id);
            case RUNNING -> {
                store.trouble(id, "", 0);
                errands.at(at, name(), String.valueOf(id));
            }
            case PAUSED, DONE -> {
                // the run sees it before it sends the next
            }
        }
        audit.record(by, "sending " + to.words(), "sending " + id, run.state().words(), to.words());
        live.changed("sendings");
    }

    @Override
    public String name() {
        return "sending-again";
    }

    @Override
    public Optional<Instant> run(String text) {
        long id = Long.parseLong(text);
        var until = times.now().plus(STRETCH);
        boolean dealt = false;
        try {
            var order = new SendOrder(store.notArrived(id));
            while (true) {
                var run = store.byId(id).orElseThrow();
                if (run.state() != SendingStore.RunState.RUNNING) return Optional.empty();
                var next = store.next(id);
                if (next.isEmpty()) {
                    store.state(id, SendingStore.RunState.DONE, times.now());
                    live.changed("sendings");
                    return Optional.empty();
                }
                var item = next.get();
                if (order.holdsBack(item.businessKey())) {
                    store.outcome(
                            item,
                            SendingStore.ItemState.HELD_BACK,
                            "an earlier message of " + item.businessKey() + " has not arrived",
                            null);
                    continue;
                }
                var begun = times.now();
                if (begun.isAfter(until)) return Optional.of(begun);
                var wait = send(run, item, order);
                dealt = true;
                live.changed("sendings");
                if (wait.isPresent()) return wait;
                var slot = begun.plusNanos(60_000_000_000L / run.perMinute());
                if (slot.isAfter(until)) return Optional.of(slot);
                var pause = Duration.between(times.now(), slot);
                if (pause.isPositive()) Thread.sleep(pause);
            }
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return Optional.of(times.now());
        } finally {
            if (dealt) {
                transaction.executeWithoutResult(status -> events.publishEvent(new MessagesDealt()));
                live.changed("messages");
            }
        }
    }

    /** Sends one; gives back when to come again where the middleware did not answer. */
    private Optional<Instant> send(SendingStore.Run run, SendingStore.Item item, SendOrder order)
            throws InterruptedException {
        transaction.executeWithoutResult(status -> store.sent(item, times.now()));
        try {
            var connection = connections
                    .ofFeed(MiddlewareSetup.SORT, item.feed())
                    .orElseThrow(() -> new Unanswered("The middleware is no longer connected.", true));
            var answer = middleware.sendAgain(
                    connection, item, estate.component(item.component()).key());
            transaction.executeWithoutResult(status -> {
                store.outcome(item, answer.state(), answer.words(), times.now());
                if (answer.state() == SendingStore.ItemState.DELIVERED) store.delivered(item.message(), run.dealing());
                if (!run.trouble().isEmpty()) store.trouble(run.id(), "", 0);
            });
            if (answer.state() != SendingStore.ItemState.DELIVERED) order.didNotArrive(item.businessKey());
            return Optional.empty();
        } catch (Unanswered failed) {
            return troubled(run, failed.words(), failed.lasting(), failed.asksToWait());
        }
    }

    private Optional<Instant> troubled(SendingStore.Run run, String why, boolean lasting, Duration asksToWait) {
        int tries = run.tries() + 1;
        boolean pauses = lasting || tries >= MOST_TRIES;
        transaction.executeWithoutResult(status -> {
            var now = store.lock(run.id());
            if (pauses && now.state() == SendingStore.RunState.RUNNING)
                store.state(run.id(), SendingStore.RunState.PAUSED, null);
            store.trouble(
                    run.id(), pauses ? why + " The run is paused; resume it once that is put right." : why, tries);
        });
        live.changed("sendings");
        return Optional.of(pauses ? times.now() : times.now().plus(BACK_OFF.after(tries, asksToWait)));
    }
}
