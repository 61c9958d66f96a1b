package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.base.MorvetSettings;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import java.util.Set;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** Mails. All about one case are one conversation, and what answers mails by itself is asked not to. */
@Component
class MailChannel implements Channel {
    private final JavaMailSender mail;
    private final TakeLinks links;
    private final MorvetSettings settings;

    MailChannel(JavaMailSender mail, TakeLinks links, MorvetSettings settings) {
        this.mail = mail;
        this.links = links;
        this.settings = settings;
    }

    @Override
    public Set<Way> ways() {
        return Set.of(Way.MAIL);
    }

    @Override
    public String send(Delivery delivery, List<Delivery> more, Instant at) throws Undelivered {
        var message = mail.createMimeMessage();
        var from = settings.mailFrom();
        var host = from.substring(from.lastIndexOf('@') + 1);
        try {
            message.setFrom(from);
            message.setRecipients(Message.RecipientType.TO, delivery.recipient());
            message.setSubject(
                    (more.isEmpty() ? "" : "%d cases. ".formatted(more.size() + 1)) + delivery.subject(), "UTF-8");
            message.setText(text(delivery, more, at), "UTF-8");
            message.setSentDate(Date.from(at));
            message.setHeader("X-Morvet-Delivery", delivery.id().toString());
            message.setHeader("Auto-Submitted", "auto-generated");
            var caseId = delivery.caseId();
            if (caseId != null) message.setHeader("References", "<case-" + caseId + "@" + host + ">");
            message.setHeader("Message-ID", "<" + delivery.id() + "@" + host + ">");
            mail.send(message);
        } catch (MailException | MessagingException failed) {
            throw new Undelivered(rootCause(failed), false);
        }
        return "";
    }

    private String text(Delivery delivery, List<Delivery> more, Instant at) {
        var text = new StringBuilder(delivery.body()).append(takeIt(delivery, at));
        for (var other : more)
            text.append("\n--------\n")
                    .append(other.subject())
                    .append("\n\n")
                    .append(other.body())
                    .append(takeIt(other, at));
        return text.toString();
    }

    /** How one who is told of a case takes it; made as it is sent, so that it stands nowhere but in the mail. */
    private String takeIt(Delivery delivery, Instant at) {
        return links.of(delivery, at)
                .map(link -> "\nTake it, or say that you cannot: " + link + "\n")
                .orElse("");
    }

    private static String rootCause(Throwable failed) {
        var cause = failed;
        while (cause.getCause() != null && cause.getCause() != cause) cause = cause.getCause();
        var words = cause.getMessage();
        return words == null ? cause.getClass().getSimpleName() : words.strip();
    }
}
