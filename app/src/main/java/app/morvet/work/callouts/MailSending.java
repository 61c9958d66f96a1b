package app.morvet.work.callouts;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.handoff.BackOff;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sends mails until the server has taken them, and gives up after a day. A mail has the same Message-ID at each try, so one
 * that is sent once more after a crash can be told from two mails.
 */
@Component
class MailSending implements Errand {
    static final String NAME = "mail-sending";
    private static final BackOff BACK_OFF =
            new BackOff(Duration.ofSeconds(5), Duration.ofMinutes(5), Duration.ofHours(24));

    private final DeliveryStore store;
    private final JavaMailSender mail;
    private final TakeLinks links;
    private final CaseBook cases;
    private final TransactionTemplate transaction;
    private final MorvetSettings settings;
    private final Live live;
    private final Times times;

    MailSending(
            DeliveryStore store,
            JavaMailSender mail,
            TakeLinks links,
            CaseBook cases,
            TransactionTemplate transaction,
            MorvetSettings settings,
            Live live,
            Times times) {
        this.store = store;
        this.mail = mail;
        this.links = links;
        this.cases = cases;
        this.transaction = transaction;
        this.settings = settings;
        this.live = live;
        this.times = times;
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String text) {
        var found = store.byId(UUID.fromString(text));
        if (found.isEmpty() || found.get().state() != Delivery.State.WAITING) return Optional.empty();
        var delivery = found.get();
        if (delivery.about() == Delivery.About.OVER && !stillOver(delivery)) {
            store.withdraw(delivery.id());
            return Optional.empty();
        }
        try {
            send(delivery, times.now());
        } catch (MailException | jakarta.mail.MessagingException failed) {
            return failed(delivery, failed);
        }
        var now = times.now();
        transaction.executeWithoutResult(status -> {
            store.sent(delivery.id(), now);
            log(delivery, words(delivery), now);
            live.changed(topic(delivery.of()));
            live.changed("now");
        });
        return Optional.empty();
    }

    /** Where what became of it is seen. */
    static String topic(Delivery.Of of) {
        return switch (of) {
            case Delivery.Of.Case one -> "cases";
            case Delivery.Of.Window one -> Windows.TOPIC;
            case Delivery.Of.Vendor one -> Vendors.TOPIC;
        };
    }

    private void log(Delivery delivery, String words, Instant at) {
        var caseId = delivery.caseId();
        if (caseId != null) cases.log(caseId, "call-out", words, at);
    }

    private boolean stillOver(Delivery delivery) {
        return Optional.ofNullable(delivery.caseId())
                .flatMap(cases::find)
                .filter(one -> one.settled() || one.overSince() != null)
                .isPresent();
    }

    /** What the log of the case says of one that was sent. */
    static String words(Delivery sent) {
        var what =
                switch (sent.about()) {
                    case EXPLAINS -> "Told that theirs is held up: ";
                    case OVER -> "Told that it is over: ";
                    case OPENED, WINDOW, VENDOR -> "Told ";
                };
        return what + sent.recipient() + " by mail";
    }

    /** @param at when it says that it was sent */
    void send(Delivery delivery, Instant at) throws jakarta.mail.MessagingException {
        var message = mail.createMimeMessage();
        var from = settings.mailFrom();
        var host = from.substring(from.lastIndexOf('@') + 1);
        message.setFrom(from);
        message.setRecipients(jakarta.mail.Message.RecipientType.TO, delivery.recipient());
        message.setSubject(delivery.subject(), "UTF-8");
        message.setText(delivery.body() + takeIt(delivery, at), "UTF-8");
        message.setSentDate(java.util.Date.from(at));
        message.setHeader("X-Morvet-Delivery", delivery.id().toString());
        // What answers mails by itself need not answer this; and all about one case is one conversation.
        message.setHeader("Auto-Submitted", "auto-generated");
        var caseId = delivery.caseId();
        if (caseId != null) message.setHeader("References", "<case-" + caseId + "@" + host + ">");
        message.setHeader("Message-ID", "<" + delivery.id() + "@" + host + ">");
        mail.send(message);
    }

    /** How one who is told of a case takes it; made as it is sent, so that it stands nowhere but in the mail. */
    private String takeIt(Delivery delivery, Instant at) {
        if (delivery.person() == null || delivery.about() != Delivery.About.OPENED) return "";
        return "\nTake it, or say that you cannot: " + settings.link("/take/" + links.make(delivery.id(), at)) + "\n";
    }

    private Optional<Instant> failed(Delivery delivery, Exception failed) {
        var now = times.now();
        var firstTry = delivery.firstTry() == null ? now : delivery.firstTry();
        boolean givenUp = BACK_OFF.exhausted(Duration.between(firstTry, now));
        var next = givenUp ? Optional.<Instant>empty() : Optional.of(now.plus(BACK_OFF.after(delivery.failures() + 1)));
        var words = rootCause(failed);
        transaction.executeWithoutResult(status -> {
            store.failed(
                    delivery.id(),
                    givenUp ? Delivery.State.GIVEN_UP : Delivery.State.WAITING,
                    now,
                    next.orElse(null),
                    words);
            if (givenUp)
                log(delivery, "The mail to " + delivery.recipient() + " could not be delivered: " + words, now);
            else if (delivery.failures() == 0)
                log(delivery, "The mail to " + delivery.recipient() + " waits: " + words, now);
            live.changed(topic(delivery.of()));
            live.changed("now");
            live.changed("callouts");
        });
        return next;
    }

    private static String rootCause(Throwable failed) {
        var cause = failed;
        while (cause.getCause() != null && cause.getCause() != cause) cause = cause.getCause();
        var words = cause.getMessage();
        return words == null ? cause.getClass().getSimpleName() : words.strip();
    }
}
