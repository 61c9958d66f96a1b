package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A critical case is told to one after the other until somebody has it; they take it by the link in the mail. */
class UntilSomebodyHasItTest extends ToldPeople {
    private static final Pattern LINK = Pattern.compile("/take/([A-Za-z0-9_-]{16})");

    @Autowired
    private CallOutController page;

    private long first;
    private long second;
    private long guard;
    private int minute;

    @BeforeEach
    void twoLines() {
        host = component("host");
        first = onDuty(0, "Otso", "");
        second = onDuty(1, "Linnea", "");
        guard = guard("critical");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
    }

    private void critical() {
        raised(guard, host, minute, CRITICAL, 9);
    }

    private String code(long person) throws Exception {
        eventually(() ->
                assertThat(MAIL.getReceivedMessagesForDomain(mail(person))).isNotEmpty());
        var mails = MAIL.getReceivedMessagesForDomain(mail(person));
        var text = Mailed.text(mails[mails.length - 1]);
        var link = LINK.matcher(text);
        assertThat(link.find()).as(text).isTrue();
        return link.group(1);
    }

    @Test
    void whoIsToldTakesItByTheLinkAndNobodyElseIsTold() throws Exception {
        critical();
        var code = code(first);
        Browser anybody = browser();
        assertThat(anybody.page("/take/" + code).text())
                .contains("heat is 9.0 on " + host.key(), "for Otso of " + host.key(), "I take it");
        assertThat(theCase(host).progress().takenBy())
                .as("opening it does nothing")
                .isNull();
        assertThat(anybody.post("/take/" + code, "answer=take").statusCode()).isEqualTo(302);
        assertThat(theCase(host).progress().takenBy()).isEqualTo(first);
        assertThat(anybody.page("/take/" + code).text())
                .contains("You have it.")
                .doesNotContain("I take it");
        assertThat(anybody.post("/take/" + code, "answer=cannot").body()).contains("You have answered already.");
        later(20);
        assertThat(told("OPENED")).containsExactly(mail(first));
        assertThat(wholeLogOf(theCase(host))).anyMatch(words -> words.startsWith("took the case"));
    }

    @Test
    void whoCannotIsFollowedByTheNextAtOnce() throws Exception {
        critical();
        var code = code(first);
        browser().post("/take/" + code, "answer=cannot");
        eventually(() -> assertThat(told("OPENED")).containsExactly(mail(first), mail(second)));
        assertThat(wholeLogOf(theCase(host))).contains("Otso of " + host.key() + " cannot take it");
        browser().post("/take/" + code(second), "answer=take");
        assertThat(theCase(host).progress().takenBy()).isEqualTo(second);
    }

    @Test
    void whoDoesNotTakeItInTimeIsFollowedByTheNextAndAtLastByTheTeam() throws Exception {
        critical();
        later(14);
        assertThat(told("OPENED")).containsExactly(mail(first));
        later(1);
        assertThat(told("OPENED")).containsExactly(mail(first), mail(second));
        later(15);
        assertThat(told("OPENED")).containsExactly(mail(first), mail(second), host.mail());
        later(15);
        assertThat(told("OPENED")).hasSize(3);
        assertThat(wholeLogOf(theCase(host))).contains("Nobody has taken it; all who can be told were told");
        assertThat(page.now()).anyMatch(one -> one.words().startsWith("nobody took"));
        // Somebody takes it after all, and then it is over: all who were told hear so, once.
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), Instant.now());
        assertThat(CallOuts.isHad(theCase(host))).isTrue();
        cleared(guard, host, minute + 61, 9);
        assertThat(told("OVER")).containsExactlyInAnyOrder(mail(first), mail(second), host.mail());
    }

    @Test
    void whatIsQuietIsHadUntilThatEnds() throws Exception {
        critical();
        browser().post("/take/" + code(first), "answer=quiet");
        var until = theCase(host).progress().quietUntil();
        assertThat(until).isAfter(Instant.now().plus(Duration.ofMinutes(59)));
        later(20);
        assertThat(told("OPENED")).containsExactly(mail(first));
        // It is looked at again when that ends; nobody has taken it by then.
        assertThat(callOuts.run("" + caseId())).contains(until);
        jdbc.sql("update work_case set quiet_until = null where id = :id")
                .param("id", caseId())
                .update();
        callOuts.run("" + caseId());
        assertThat(told("OPENED")).containsExactly(mail(first), mail(second));
    }

    @Test
    void whoHasNoCodeGetsNowhereAndOneThatIsOldIsNotGood() throws Exception {
        critical();
        var code = code(first);
        var anybody = browser();
        assertThat(anybody.get("/take/AAAAAAAAAAAAAAAA").statusCode()).isEqualTo(404);
        assertThat(anybody.post("/take/AAAAAAAAAAAAAAAA", "answer=take").statusCode())
                .isEqualTo(404);
        assertThat(anybody.post("/take/" + code, "answer=sell").statusCode()).isEqualTo(422);
        assertThat(jdbc.sql("select count(*) from delivery where body like '%' || :code || '%'")
                        .param("code", code)
                        .query(Integer.class)
                        .single())
                .as("a code stands in the mail alone")
                .isZero();
        jdbc.sql("update call_out_link set made_at = made_at - interval '13 hours'")
                .update();
        assertThat(anybody.get("/take/" + code).body()).contains("This link is not good any more");
        assertThat(anybody.post("/take/" + code, "answer=take").statusCode()).isEqualTo(404);
        assertThat(theCase(host).progress().takenBy()).isNull();
    }

    /** All about one case is one conversation, and what answers mails by itself is asked not to. */
    @Test
    void mailsAboutOneCaseAreOneConversation() throws Exception {
        critical();
        code(first);
        cleared(guard, host, minute + 1, 9);
        // That it is over is told a quarter of a minute later, since it may be taken back.
        jdbc.sql("update scheduled_tasks set execution_time = now() where task_name = 'mail-sending' and not picked")
                .update();
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(mail(first))).hasSize(2));
        for (var one : MAIL.getReceivedMessagesForDomain(mail(first))) {
            assertThat(one.getHeader("Auto-Submitted")).containsExactly("auto-generated");
            assertThat(one.getHeader("References")[0]).startsWith("<case-" + caseId() + "@");
        }
        var ids = Arrays.stream(MAIL.getReceivedMessagesForDomain(mail(first)))
                .map(one -> header(one, "Message-ID"))
                .toList();
        assertThat(ids).doesNotHaveDuplicates();
        assertThat(Mailed.text(MAIL.getReceivedMessagesForDomain(mail(first))[1]))
                .as("what is over need not be taken")
                .doesNotContain("/take/");
    }

    private static String header(jakarta.mail.internet.MimeMessage one, String name) {
        try {
            return one.getHeader(name)[0];
        } catch (jakarta.mail.MessagingException broken) {
            throw new IllegalStateException(broken);
        }
    }

    @Test
    void ofTwoWhoWereToldTheFirstWhoTakesItHasIt() throws Exception {
        critical();
        var early = code(first);
        later(16);
        var late = code(second);
        browser().post("/take/" + late, "answer=take");
        assertThat(browser().post("/take/" + early, "answer=take").body())
                .contains("Linnea of " + host.key() + " has it already.");
        assertThat(browser().post("/take/" + early, "answer=quiet").body()).contains("has it already");
        assertThat(theCase(host).progress().quietUntil()).isNull();
        assertThat(theCase(host).progress().takenBy()).isEqualTo(second);
    }
}
