package app.morvet.work.tickets;

import app.morvet.core.callouts.Way;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Connections;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.callouts.Delivery;
import app.morvet.work.callouts.Mails;
import app.morvet.work.channels.WebCalls;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tickets to vendors: by mail, or by a web call where a vendor takes them so. */
@Service
public class VendorTickets {
    private static final int LONGEST_SUBJECT = 200;
    private static final int LONGEST_BODY = 20_000;
    private static final int SHOWN = 5;

    private final Mails mails;
    private final Vendors vendors;
    private final Connections connections;
    private final Audit audit;
    private final Clock clock;

    VendorTickets(Mails mails, Vendors vendors, Connections connections, Audit audit, Clock clock) {
        this.mails = mails;
        this.vendors = vendors;
        this.connections = connections;
        this.audit = audit;
        this.clock = clock;
    }

    /** The latest to the vendor of an instance. */
    public List<Delivery> of(long component) {
        return mails.ofVendor(component, SHOWN);
    }

    /** Through what a ticket may go besides mail, by the id of its connection. */
    public Map<Long, String> through() {
        var found = new LinkedHashMap<Long, String>();
        connections.of(WebCalls.SORT).forEach(one -> found.put(one.id(), one.name()));
        return found;
    }

    /**
     * Writes one down, to be sent at once.
     *
     * @param through the connection by which it goes; 0 by mail
     * @throws IllegalArgumentException where it cannot be sent
     */
    @Transactional
    public void send(long component, String subject, String body, long through, Person by) {
        var to = through == 0 ? byMail(component) : byCall(through);
        if (subject.isBlank() || subject.length() > LONGEST_SUBJECT)
            throw new IllegalArgumentException("a ticket has a subject of at most 200 letters");
        if (body.isBlank() || body.length() > LONGEST_BODY)
            throw new IllegalArgumentException("a ticket has a text of at most 20,000 letters");
        var now = clock.instant();
        mails.post(Delivery.fresh(
                new Delivery.Of.Vendor(component),
                to,
                by.id(),
                Delivery.About.VENDOR,
                null,
                subject.replaceAll("\\s+", " ").strip(),
                body,
                now,
                now));
        audit.record(
                by,
                "ticket to a vendor",
                to.hop().way().words() + " to " + to.hop().address(),
                null,
                subject);
    }

    private Delivery.To byMail(long component) {
        var mail = vendors.instance(component).map(VendorInstance::mail).orElse("");
        if (mail.isEmpty())
            throw new IllegalArgumentException(
                    "no mail address of this vendor is known; an admin says it under What is agreed");
        return Delivery.To.mail(null, mail);
    }

    private Delivery.To byCall(long through) {
        var name = through().get(through);
        if (name == null) throw new IllegalArgumentException("choose by what it goes; what stood there is gone");
        return new Delivery.To(null, null, new Delivery.Hop(Way.WEB, name, through), List.of());
    }
}
