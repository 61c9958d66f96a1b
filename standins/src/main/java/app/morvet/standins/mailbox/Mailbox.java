package app.morvet.standins.mailbox;

import app.morvet.standins.StandInSettings;
import com.icegreen.greenmail.configuration.GreenMailConfiguration;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.annotation.PreDestroy;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Transport;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Date;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** A mail server that takes every mail and delivers none further; it can be switched off. */
@Component
class Mailbox {
    /** @param id its Message-ID */
    record Mail(String id, String to, String subject, String sent, String text) {}

    /** To whom people write back, and who reads it. */
    private static final String MORVET = "morvet@sundrava.example";

    private static final String PASSWORD = "ferry-replies";

    private final ServerSetup[] setup;
    /** What came in before the server was last switched off. */
    private final List<Mail> earlier = new ArrayList<>();

    private GreenMail server;
    private boolean on;

    Mailbox(StandInSettings settings) {
        var smtp = new ServerSetup(settings.smtpPort(), "127.0.0.1", ServerSetup.PROTOCOL_SMTP);
        this.setup = settings.imapPort() == 0
                ? new ServerSetup[] {smtp}
                : new ServerSetup[] {smtp, new ServerSetup(settings.imapPort(), "127.0.0.1", ServerSetup.PROTOCOL_IMAP)
                };
        this.server = fresh();
        this.server.start();
        this.on = true;
    }

    private GreenMail fresh() {
        return new GreenMail(setup)
                .withConfiguration(GreenMailConfiguration.aConfig()
                        .withDisabledAuthentication()
                        .withUser(MORVET, MORVET, PASSWORD));
    }

    synchronized boolean on() {
        return on;
    }

    synchronized void turn(boolean wanted) {
        if (wanted == on) return;
        if (wanted) {
            server = fresh();
            server.start();
        } else {
            earlier.addAll(received());
            server.stop();
        }
        on = wanted;
    }

    /**
     * Whoever got a mail writes back to Morvet, with the mail quoted.
     *
     * @param id its Message-ID
     */
    synchronized void reply(String id, String words) throws MessagingException {
        var mail = mails().stream()
                .filter(one -> one.id().equals(id))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("there is no mail " + id));
        var reply = new MimeMessage(server.getSmtp().createSession());
        reply.setFrom(mail.to());
        reply.setRecipients(Message.RecipientType.TO, MORVET);
        reply.setSubject("Re: " + mail.subject(), "UTF-8");
        reply.setHeader("In-Reply-To", id);
        reply.setText(
                words + "\n\nMorvet wrote:\n"
                        + mail.text().lines().map(line -> "> " + line).collect(Collectors.joining("\n")),
                "UTF-8");
        Transport.send(reply);
    }

    /** The latest first, by when each says that it was sent: those of a past come in in any order. */
    synchronized List<Mail> mails() {
        var mails = new ArrayList<>(earlier);
        if (on) mails.addAll(received());
        return mails.reversed().stream()
                .sorted(Comparator.comparing(Mail::sent).reversed())
                .toList();
    }

    private List<Mail> received() {
        var mails = new ArrayList<Mail>();
        for (var message : server.getReceivedMessages()) mails.add(mail(message));
        return mails;
    }

    private static Mail mail(MimeMessage message) {
        try {
            Date sent = message.getSentDate();
            return new Mail(
                    message.getMessageID(),
                    GreenMailUtil.getAddressList(message.getAllRecipients()),
                    message.getSubject(),
                    sent == null ? "" : sent.toInstant().toString(),
                    text(message));
        } catch (MessagingException | IOException unreadable) {
            return new Mail("", "", "unreadable mail", "", String.valueOf(unreadable.getMessage()));
        }
    }

    /** Its words: of one that says the same in several ways, those that are plain text. */
    private static String text(Part part) throws MessagingException, IOException {
        if (!(part.getContent() instanceof Multipart parts))
            return part.isMimeType("text/plain") ? String.valueOf(part.getContent()) : "";
        var text = new StringBuilder();
        for (int i = 0; i < parts.getCount(); i++) text.append(text(parts.getBodyPart(i)));
        return text.toString();
    }

    @PreDestroy
    synchronized void close() {
        if (on) server.stop();
    }
}
