package app.morvet.work.callouts;

import app.morvet.work.cases.CaseBook;
import jakarta.mail.MessagingException;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.mail.MailException;
import org.springframework.stereotype.Component;

/** The mails of a past that was gone through: they are sent as of then, so that those who look find them where they would be. */
@Component
public class RecalledMails {
    private static final Logger log = LoggerFactory.getLogger(RecalledMails.class);
    private static final int MOST = 10_000;

    private final DeliveryStore store;
    private final MailSending sending;
    private final CaseBook cases;

    RecalledMails(DeliveryStore store, MailSending sending, CaseBook cases) {
        this.store = store;
        this.sending = sending;
        this.cases = cases;
    }

    /**
     * Takes the mails that wait and were made before an instant out of what is sent by itself, and says of them that they were
     * sent then. To be called in the transaction that makes them; they are {@linkplain #send sent} after it.
     */
    public List<UUID> take(Instant before) {
        var waiting = store.recent(true, MOST).reversed().stream()
                .filter(one ->
                        one.state() == Delivery.State.WAITING && one.madeAt().isBefore(before))
                .toList();
        for (var one : waiting) {
            store.sent(one.id(), one.madeAt());
            var caseId = one.caseId();
            if (caseId != null) cases.log(caseId, "call-out", MailSending.words(one), one.madeAt());
        }
        return waiting.stream().map(Delivery::id).toList();
    }

    /** Sends mails that were taken, as of when they were made. A server that does not take one is told of in the log. */
    public void send(List<UUID> taken) {
        int missed = 0;
        for (var id : taken) {
            var one = store.byId(id).orElseThrow();
            try {
                sending.send(one, one.madeAt());
            } catch (MailException | MessagingException failed) {
                missed++;
            }
        }
        if (missed > 0) log.warn("{} mails of the past were not taken by the mail server", missed);
    }
}
