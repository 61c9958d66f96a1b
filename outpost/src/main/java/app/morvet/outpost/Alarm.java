package app.morvet.outpost;

import app.morvet.core.guard.Spans;
import app.morvet.probe.Web;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.util.Properties;
import java.util.logging.Level;
import java.util.logging.Logger;
import org.jspecify.annotations.Nullable;

/** Watches the watcher: when Morvet has not answered for a time, it tells by a way of its own, and again when it is back. */
final class Alarm {
    private static final Logger log = Logger.getLogger(Alarm.class.getName());
    private static final Duration AGAIN_AFTER_FAILURE = Duration.ofSeconds(30);
    private static final Duration PATIENCE = Duration.ofSeconds(10);

    private final OwnFile own;
    private final Clock clock;
    private final Web web = new Web();
    private final Path note;
    private Instant answered;
    private @Nullable Instant toldAwaySince;
    private Instant triedAt = Instant.EPOCH;

    /** @param folder where it is noted that somebody was told, so that they are told the end of it, too, by whoever runs then */
    Alarm(OwnFile own, Path folder, Clock clock) {
        this.own = own;
        this.note = folder.resolve("told-away-since");
        this.clock = clock;
        this.answered = clock.instant();
        try {
            if (Files.exists(note))
                toldAwaySince = Instant.parse(Files.readString(note).strip());
        } catch (IOException | DateTimeException unreadable) {
            log.log(Level.WARNING, "it is not known whether anybody was told that Morvet is away", unreadable);
        }
    }

    private void told(@Nullable Instant awaySince) {
        toldAwaySince = awaySince;
        try {
            if (awaySince == null) Files.deleteIfExists(note);
            else Files.writeString(note, awaySince.toString());
        } catch (IOException full) {
            log.log(Level.WARNING, "that somebody was told could not be noted", full);
        }
    }

    /** Morvet answered. */
    void answered() throws InterruptedException {
        var since = toldAwaySince;
        answered = clock.instant();
        if (since == null) return;
        var words = "Morvet answers again at %s, after %s."
                .formatted(own.morvet(), Spans.words(Duration.between(since, clock.instant())));
        if (tell("back", words)) told(null);
    }

    /** It did not. */
    void silent(String why) throws InterruptedException {
        var watcher = own.watcher();
        var now = clock.instant();
        if (watcher == null
                || toldAwaySince != null
                || answered.plus(watcher.after()).isAfter(now)) return;
        if (triedAt.plus(AGAIN_AFTER_FAILURE).isAfter(now)) return;
        triedAt = now;
        var words = "Morvet at %s has not answered the outpost %s for %s: %s"
                .formatted(own.morvet(), own.name(), Spans.words(Duration.between(answered, now)), why);
        if (tell("away", words)) told(answered);
    }

    /** Tells whether one of the ways worked. */
    private boolean tell(String event, String words) throws InterruptedException {
        var watcher = own.watcher();
        if (watcher == null) return true;
        boolean told = false;
        if (!watcher.call().isEmpty()) told = call(watcher, event, words);
        if (!watcher.mail().isEmpty()) told |= mail(watcher, words);
        return told;
    }

    private boolean call(OwnFile.Watcher watcher, String event, String words) throws InterruptedException {
        var body = Wire.JSON
                .createObjectNode()
                .put("event", event)
                .put("outpost", own.name())
                .put("words", words)
                .toString();
        try {
            var answer = web.call(
                    HttpRequest.newBuilder()
                            .header("Content-Type", "application/json")
                            .POST(HttpRequest.BodyPublishers.ofString(body)),
                    watcher.call(),
                    PATIENCE);
            if (answer.status() / 100 == 2) return true;
            log.warning("who is told that Morvet is " + event + " answers " + answer.status());
        } catch (IOException failed) {
            log.log(Level.WARNING, "nobody could be told that Morvet is " + event, failed);
        }
        return false;
    }

    private boolean mail(OwnFile.Watcher watcher, String words) {
        int colon = watcher.mail().lastIndexOf(':');
        var settings = new Properties();
        settings.setProperty(
                "mail.smtp.host", colon < 0 ? watcher.mail() : watcher.mail().substring(0, colon));
        settings.setProperty("mail.smtp.port", colon < 0 ? "25" : watcher.mail().substring(colon + 1));
        settings.setProperty("mail.smtp.connectiontimeout", "" + PATIENCE.toMillis());
        settings.setProperty("mail.smtp.timeout", "" + PATIENCE.toMillis());
        try {
            var message = new MimeMessage(Session.getInstance(settings));
            message.setFrom(new InternetAddress(watcher.from()));
            for (var to : watcher.to()) message.addRecipient(Message.RecipientType.TO, new InternetAddress(to));
            message.setSubject(words.length() > 120 ? words.substring(0, 120) : words, "UTF-8");
            message.setText(words, "UTF-8");
            Transport.send(message);
            return true;
        } catch (MessagingException failed) {
            log.log(Level.WARNING, "no mail could be sent", failed);
            return false;
        }
    }
}
