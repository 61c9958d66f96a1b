package app.morvet.work.tickets;

import app.morvet.core.handoff.BackOff;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Live;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import jakarta.mail.MessagingException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Tickets to vendors by mail. One bears the same Message-ID at each try, so what is sent once more after a crash can be told from two;
 * after a day it is given up, and says so.
 */
@Service
public class VendorTickets implements Errand {
    private static final String NAME = "vendor-ticket";
    private static final int LONGEST_SUBJECT = 200;
    private static final int LONGEST_BODY = 20_000;
    private static final int SHOWN = 5;
    private static final BackOff BACK_OFF =
            new BackOff(Duration.ofSeconds(5), Duration.ofMinutes(5), Duration.ofHours(24));

    /** @param state {@code waiting}, {@code sent} or {@code given up} */
    public record Ticket(
            UUID id,
            long component,
            String to,
            String subject,
            String body,
            Instant at,
            String state,
            int failures,
            String why) {}

    private final JdbcClient jdbc;
    private final JavaMailSender mail;
    private final Errands errands;
    private final Vendors vendors;
    private final Audit audit;
    private final MorvetSettings settings;
    private final Live live;
    private final Clock clock;

    VendorTickets(
            JdbcClient jdbc,
            JavaMailSender mail,
            Errands errands,
            Vendors vendors,
            Audit audit,
            MorvetSettings settings,
            Live live,
            Clock clock) {
        this.jdbc = jdbc;
        this.mail = mail;
        this.errands = errands;
        this.vendors = vendors;
        this.audit = audit;
        this.settings = settings;
        this.live = live;
        this.clock = clock;
    }

    private static Ticket ticket(ResultSet row, int number) throws SQLException {
        return new Ticket(
                row.getObject("id", UUID.class),
                row.getLong("component_id"),
                row.getString("recipient"),
                row.getString("subject"),
                row.getString("body"),
                Stamp.in(row, "at"),
                row.getString("state"),
                row.getInt("failures"),
                row.getString("why"));
    }

    /** The latest to the vendor of an instance. */
    public List<Ticket> of(long component) {
        return jdbc.sql("select * from vendor_ticket where component_id = :component order by at desc limit :most")
                .param("component", component)
                .param("most", SHOWN)
                .query(VendorTickets::ticket)
                .list();
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
        var id = UUID.randomUUID();
        jdbc.sql(
                        """
                        insert into vendor_ticket (id, component_id, recipient, subject, body, by_id, at, state, failures, why)
                        values (:id, :component, :to, :subject, :body, :by, :at, 'waiting', 0, '')""")
                .param("id", id)
                .param("component", component)
                .param("to", to)
                .param("subject", subject.replaceAll("\\s+", " ").strip())
                .param("body", body)
                .param("by", by.id())
                .param("at", Stamp.of(clock.instant()))
                .update();
        errands.at(clock.instant(), NAME, id.toString());
        audit.record(by, "ticket to a vendor", "mail to " + to, null, subject);
        live.changed(Vendors.TOPIC);
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String id) {
        var one = jdbc.sql("select * from vendor_ticket where id = :id and state = 'waiting'")
                .param("id", UUID.fromString(id))
                .query(VendorTickets::ticket)
                .optional()
                .orElse(null);
        if (one == null) return Optional.empty();
        try {
            post(one);
            became(one, "sent", one.failures(), "");
            return Optional.empty();
        } catch (MailException | MessagingException failed) {
            var now = clock.instant();
            boolean givenUp = BACK_OFF.exhausted(Duration.between(one.at(), now));
            became(one, givenUp ? "given up" : "waiting", one.failures() + 1, String.valueOf(failed.getMessage()));
            return givenUp ? Optional.empty() : Optional.of(now.plus(BACK_OFF.after(one.failures() + 1)));
        }
    }

    private void post(Ticket one) throws MessagingException {
        var message = mail.createMimeMessage();
        var from = settings.mailFrom();
        message.setFrom(from);
        message.setRecipients(jakarta.mail.Message.RecipientType.TO, one.to());
        message.setSubject(one.subject(), "UTF-8");
        message.setText(one.body(), "UTF-8");
        message.setSentDate(java.util.Date.from(one.at()));
        message.setHeader("Message-ID", "<" + one.id() + "@" + from.substring(from.lastIndexOf('@') + 1) + ">");
        mail.send(message);
    }

    private void became(Ticket one, String state, int failures, @Nullable String why) {
        jdbc.sql("update vendor_ticket set state = :state, failures = :failures, why = left(:why, 500) where id = :id")
                .param("id", one.id())
                .param("state", state)
                .param("failures", failures)
                .param("why", why == null ? "" : why)
                .update();
        live.changed(Vendors.TOPIC);
    }
}
