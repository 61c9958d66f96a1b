package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.base.Errands;
import app.morvet.work.cases.CaseBook;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Call-outs of a past that is gone through: people are told as they would have been, and mails are sent as of then, so that those who
 * look find them where they would be.
 */
@Component
public class PastCallOuts {
    private static final Logger log = LoggerFactory.getLogger(PastCallOuts.class);
    private static final int MOST = 10_000;

    private final CallOuts callOuts;
    private final LateCases late;
    private final CallOutDigests digests;
    private final Errands errands;
    private final DeliveryStore store;
    private final DeliverySending sending;
    private final CaseBook cases;
    private long known = -1;
    private Instant next = Instant.MIN;

    PastCallOuts(
            CallOuts callOuts,
            LateCases late,
            CallOutDigests digests,
            Errands errands,
            DeliveryStore store,
            DeliverySending sending,
            CaseBook cases) {
        this.callOuts = callOuts;
        this.late = late;
        this.digests = digests;
        this.errands = errands;
        this.store = store;
        this.sending = sending;
        this.cases = cases;
    }

    /** Goes on to an instant: whoever was to be told until then is told, in the transaction that makes the past. */
    public void goTo(Instant now) {
        // At most instants of a past there is none, and each list is made of all that wait.
        if (errands.changes() != known) {
            known = errands.changes();
            next = errands.first(List.of(LateCases.NAME, CallOutDigests.NAME, CallOuts.NEXT))
                    .orElse(Instant.MAX);
        }
        if (next.isAfter(now)) return;
        for (var due : errands.due(LateCases.NAME, now)) {
            errands.takeBack(due);
            late.run(due.id(), due.at());
        }
        for (var due : errands.due(CallOutDigests.NAME, now)) {
            errands.takeBack(due);
            digests.run(due.id(), due.at());
        }
        for (var due : errands.due(CallOuts.NEXT, now)) {
            errands.takeBack(due);
            callOuts.run(due.id(), due.at()).ifPresent(next -> errands.at(next, CallOuts.NEXT, due.id()));
        }
    }

    /**
     * Takes the mails that wait and were made before an instant out of what is sent by itself, and says of them that they were
     * sent then. To be called in the transaction that makes them; they are {@linkplain #send sent} after it.
     */
    public List<Delivery> take(Instant before) {
        var waiting = store.waiting(before, MOST);
        for (var one : waiting) {
            store.sent(one.id(), "", one.madeAt());
            var caseId = one.caseId();
            if (caseId != null) cases.log(caseId, "call-out", DeliverySending.words(one), one.madeAt());
        }
        // A mail says when it was sent; a telephone would ring now.
        return waiting.stream().filter(one -> one.to().hop().way() == Way.MAIL).toList();
    }

    /**
     * Sends mails that were taken, as of when they were made; all at once, for most of the time that each takes is the server's. A server
     * that does not take one is told of in the log.
     */
    public void send(List<Delivery> taken) {
        var missed = new AtomicInteger();
        try (var each = Executors.newVirtualThreadPerTaskExecutor()) {
            for (var one : taken)
                each.execute(() -> {
                    if (!sent(one)) missed.incrementAndGet();
                });
        }
        if (missed.get() > 0) log.warn("{} call-outs of the past were not taken", missed);
    }

    private boolean sent(Delivery one) {
        try {
            sending.send(one, one.madeAt());
            return true;
        } catch (Channel.Undelivered failed) {
            return false;
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            return false;
        }
    }
}
