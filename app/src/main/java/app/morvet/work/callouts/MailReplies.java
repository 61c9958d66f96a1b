package app.morvet.work.callouts;

import app.morvet.core.callouts.Reply;
import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import jakarta.mail.Flags;
import jakarta.mail.Folder;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.search.FlagTerm;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.util.HtmlUtils;

/**
 * What people write back to a mail becomes a note in its case. Whose note it is says the code of the link in what they quote, and never the
 * sender, whom anybody can make up; a mail without a good code is passed over, and so is what answers by itself.
 */
@Component
class MailReplies implements Errand, NowSource, AgedData {
    private static final Logger log = LoggerFactory.getLogger(MailReplies.class);
    private static final String NAME = "mail-replies";
    private static final String ID = "1";
    private static final int AT_ONCE = 100;
    private static final int LARGEST = 1 << 20;
    private static final Duration KEPT = Duration.ofDays(30);

    private final ReplySettings settings;
    private final TakeLinks links;
    private final JdbcClient jdbc;
    private final Errands errands;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Times times;
    private volatile @Nullable Instant failingSince;

    MailReplies(
            ReplySettings settings,
            TakeLinks links,
            JdbcClient jdbc,
            Errands errands,
            TransactionTemplate transaction,
            Live live,
            Times times) {
        this.settings = settings;
        this.links = links;
        this.jdbc = jdbc;
        this.errands = errands;
        this.transaction = transaction;
        this.live = live;
        this.times = times;
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        if (settings.on()) errands.unlessWaiting(times.now(), NAME, ID);
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String id) {
        if (!settings.on()) return Optional.empty();
        try {
            read();
            works(null);
        } catch (MessagingException failed) {
            works(failingSince == null ? times.now() : failingSince);
        }
        return Optional.of(times.now().plus(settings.every()));
    }

    private void works(@Nullable Instant failing) {
        boolean changed = (failing == null) != (failingSince == null);
        failingSince = failing;
        if (changed) live.changed("now");
    }

    private void read() throws MessagingException {
        var protocol = settings.tls() ? "imaps" : "imap";
        var properties = new Properties();
        properties.put("mail." + protocol + ".connectiontimeout", "5000");
        properties.put("mail." + protocol + ".timeout", "10000");
        properties.put("mail." + protocol + ".ssl.checkserveridentity", "true");
        try (var store = Session.getInstance(properties).getStore(protocol)) {
            store.connect(settings.host(), settings.port(), settings.user(), settings.password());
            try (var folder = store.getFolder(settings.folder())) {
                folder.open(Folder.READ_WRITE);
                int read = 0;
                for (var mail : folder.search(new FlagTerm(new Flags(Flags.Flag.SEEN), false))) {
                    if (read++ >= AT_ONCE) return;
                    try {
                        take(mail);
                    } catch (IllegalArgumentException unfit) {
                        log.warn(
                                "a reply could not be made a note: {}",
                                unfit.getClass().getSimpleName());
                    }
                    // What nobody could read is not read for ever.
                    mail.setFlag(Flags.Flag.SEEN, true);
                }
            }
        }
    }

    private void take(Message mail) throws MessagingException {
        if (mail.getSize() > LARGEST || answersByItself(mail)) return;
        String text;
        try {
            text = text(mail);
        } catch (IOException | ClassCastException unreadable) {
            return;
        }
        var words = Reply.words(text);
        if (words.isEmpty()) return;
        var called = called(mail, text);
        transaction.executeWithoutResult(status -> {
            boolean fresh = jdbc.sql("insert into reply_taken (mail, at) values (:mail, :at) on conflict do nothing")
                            .param("mail", called)
                            .param("at", Stamp.of(times.now()))
                            .update()
                    > 0;
            if (fresh)
                Reply.codes(text).stream()
                        .filter(code -> links.note(code, words))
                        .findFirst();
        });
    }

    /** RFC 3834: what was sent by a program is no reply of a person. */
    private static boolean answersByItself(Message mail) throws MessagingException {
        var said = mail.getHeader("Auto-Submitted");
        return said != null && said.length > 0 && !said[0].strip().equalsIgnoreCase("no");
    }

    private static byte[] called(Message mail, String text) throws MessagingException {
        var id = mail.getHeader("Message-ID");
        var name = id == null || id.length == 0 ? mail.getSentDate() + text : id[0];
        try {
            return MessageDigest.getInstance("SHA-256").digest(name.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** Its plain text; where it has none, that of its HTML. */
    private static String text(Part mail) throws MessagingException, IOException {
        var plain = first(mail, "text/plain");
        if (!plain.isBlank()) return plain;
        // The addresses of links stand in what is taken away.
        var html = first(mail, "text/html").replaceAll("(?i)<a\\s[^>]*href=\"([^\"]*)\"[^>]*>", " $1 ");
        return HtmlUtils.htmlUnescape(html.replaceAll("(?is)<(style|script|head)\\b.*?</\\1>", "")
                .replaceAll("(?i)<blockquote", "\n> <blockquote")
                .replaceAll("(?i)<(br|/p|/div|/tr|/li|/h\\d)\\b[^>]*>", "\n")
                .replaceAll("<[^>]*>", ""));
    }

    private static String first(Part part, String type) throws MessagingException, IOException {
        if (part.isMimeType(type)) return part.getContent() instanceof String text ? text : "";
        if (part.getContent() instanceof Multipart parts)
            for (int i = 0; i < parts.getCount(); i++) {
                var found = first(parts.getBodyPart(i), type);
                if (!found.isBlank()) return found;
            }
        return "";
    }

    @Override
    public List<NowItem> now() {
        var since = failingSince;
        return since == null
                ? List.of()
                : List.of(new NowItem("warning", "replies not read since " + times.of(since), "/callouts"));
    }

    @Override
    public List<String> topics() {
        return List.of("now");
    }

    @Override
    public void dropOld(Instant now) {
        jdbc.sql("delete from reply_taken where at < :before")
                .param("before", Stamp.of(now.minus(KEPT)))
                .update();
    }
}
