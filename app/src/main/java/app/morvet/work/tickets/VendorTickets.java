package app.morvet.work.tickets;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.callouts.Delivery;
import app.morvet.work.callouts.Mails;
import java.time.Clock;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tickets to vendors, by mail. */
@Service
public class VendorTickets {
    private static final int LONGEST_SUBJECT = 200;
    private static final int LONGEST_BODY = 20_000;
    private static final int SHOWN = 5;

    private final Mails mails;
    private final Vendors vendors;
    private final Audit audit;
    private final Clock clock;

    VendorTickets(Mails mails, Vendors vendors, Audit audit, Clock clock) {
        this.mails = mails;
        this.vendors = vendors;
        this.audit = audit;
        this.clock = clock;
    }

    /** The latest to the vendor of an instance. */
    public List<Delivery> of(long component) {
        return mails.ofVendor(component, SHOWN);
    }

    /**
     * Writes one down, to be sent at once.
     *
     * @throws IllegalArgumentException where it cannot be sent
     */
    @Transactional
    public void send(long component, String subject, String body, Person by) {
        var to = vendors.instance(component).map(VendorInstance::mail).orElse("");
        if (to.isEmpty())
            throw new IllegalArgumentException(
                    "no mail address of this vendor is known; an admin says it under What is agreed");
        if (subject.isBlank() || subject.length() > LONGEST_SUBJECT)
            throw new IllegalArgumentException("a ticket has a subject of at most 200 letters");
        if (body.isBlank() || body.length() > LONGEST_BODY)
            throw new IllegalArgumentException("a ticket has a text of at most 20,000 letters");
        var now = clock.instant();
        mails.post(Delivery.mail(
                new Delivery.Of.Vendor(component),
                null,
                by.id(),
                Delivery.About.VENDOR,
                to,
                subject.replaceAll("\\s+", " ").strip(),
                body,
                now,
                now));
        audit.record(by, "ticket to a vendor", "mail to " + to, null, subject);
    }
}
