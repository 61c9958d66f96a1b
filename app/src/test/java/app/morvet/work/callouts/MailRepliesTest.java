package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Mailed;
import app.morvet.work.cases.WorkCase;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Transport;
import jakarta.mail.internet.MimeMessage;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What people write back is a note of whoever the code in it was sent to, once, and of nobody else. */
class MailRepliesTest extends ToldPeople {
    @Autowired
    private MailReplies replies;

    private long first;
    private WorkCase told;
    private String mail = "";

    @BeforeEach
    void somebodyIsTold() throws Exception {
        host = component(host());
        first = onDuty(0, "Otso", "");
        raised(guard("hot"), host, (int) Duration.between(T, Instant.now()).toMinutes(), CRITICAL, 9);
        told = theCase(host);
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(mail(first))).isNotEmpty());
        mail = Mailed.text(MAIL.getReceivedMessagesForDomain(mail(first))[0]);
        assertThat(mail).contains("/take/");
    }

    private MimeMessage reply(String from, String text) throws Exception {
        var reply = new MimeMessage(MAIL.getSmtp().createSession());
        reply.setFrom(from);
        reply.setRecipients(Message.RecipientType.TO, REPLIES);
        reply.setSubject("Re: Critical");
        reply.setText(text, "UTF-8");
        return reply;
    }

    private String quoted() {
        return "\r\n\r\nMorvet wrote:\r\n> " + mail.replace("\n", "\r\n> ");
    }

    private String name() {
        return everybody.card(first).orElseThrow().person().name();
    }

    private List<String> notes() {
        return jdbc.sql(
                        "select p.name || ': ' || e.words from case_entry e join person p on p.id = e.person_id where case_id = :id and kind = 'note' order by e.id")
                .param("id", told.id())
                .query(String.class)
                .list();
    }

    @Test
    void itIsTheNoteOfWhoeverTheCodeWasSentToWhateverTheSenderSays() throws Exception {
        Transport.send(reply("somebody.else@nowhere.example", "The pump is ordered." + quoted()));
        replies.run("1");
        assertThat(notes()).containsExactly(name() + ": The pump is ordered.");
        // What was read is not read again, even where the mailbox says that it was not.
        replies.run("1");
        assertThat(notes()).hasSize(1);
        assertThat(theCase(host).progress().takenBy())
                .as("to write back takes nothing")
                .isNull();
    }

    @Test
    void theSameMailTwiceIsOneNote() throws Exception {
        for (int time = 0; time < 2; time++) {
            var reply = new MimeMessage(reply(mail(first), "Once is enough." + quoted())) {
                @Override
                protected void updateMessageID() throws MessagingException {
                    setHeader("Message-ID", "<once@" + host.key() + ">");
                }
            };
            Transport.send(reply);
        }
        replies.run("1");
        assertThat(notes()).containsExactly(name() + ": Once is enough.");
    }

    @Test
    void whatHasNoGoodCodeOrNoWordsOrAnswersByItselfIsPassedOver() throws Exception {
        Transport.send(reply(mail(first), "I am the one who was told."));
        Transport.send(reply(
                mail(first),
                "guessed\r\n> http://localhost/take/"
                        + UUID.randomUUID().toString().substring(0, 16)));
        Transport.send(reply(mail(first), quoted().strip()));
        var away = reply(mail(first), "I am away until Monday." + quoted());
        away.setHeader("Auto-Submitted", "auto-replied");
        Transport.send(away);
        replies.run("1");
        assertThat(notes()).isEmpty();
    }

    @Test
    void whatIsWrittenAsHtmlIsReadToo() throws Exception {
        var reply = reply(mail(first), "");
        var link = mail.substring(mail.indexOf("http", mail.indexOf("Take it"))).split("\\s")[0];
        reply.setContent(
                "<html><head><style>p { x: y }</style></head><body><p>Restarted &amp; <b>well</b>.</p><blockquote><a href=\"%s\">Take it</a></blockquote></body></html>"
                        .formatted(link),
                "text/html; charset=UTF-8");
        Transport.send(reply);
        replies.run("1");
        assertThat(notes()).containsExactly(name() + ": Restarted & well.");
    }

    @Test
    void aMailboxThatDoesNotAnswerIsOnTheNowLine() throws Exception {
        MAIL.getImap().stopService();
        try {
            assertThat(replies.run("1")).isPresent();
            assertThat(replies.now()).singleElement().satisfies(item -> assertThat(item.words())
                    .startsWith("replies not read since"));
        } finally {
            MAIL.reset();
        }
        eventually(() -> {
            replies.run("1");
            assertThat(replies.now()).isEmpty();
        });
    }
}
