package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Call-outs as the analyst sees them: who was told what, what has not got through, and that it is tried again. */
class CallOutPagesTest extends ToldAlerts {
    @Autowired
    private CallOutController page;

    @Autowired
    private DeliveryStore store;

    private Browser analyst;

    @BeforeEach
    void logIn() throws Exception {
        analyst = loggedIn("analyst");
    }

    @AfterEach
    void theServerIsBack() {
        if (!MAIL.getSmtp().isRunning()) MAIL.reset();
    }

    private Subject critical() {
        long guard = guard("critical");
        var subject = component(host());
        raised(guard, subject, 0, CRITICAL, 9);
        return subject;
    }

    private Delivery mailOf(Subject subject) {
        return store.ofCase((Long) caseOf(subject).get("id")).getFirst();
    }

    private String row(String show, Subject subject) throws Exception {
        // Looked for by its words: the list is shared with what others are told.
        return analyst.page("/callouts?show=" + show + "&words=" + subject.key())
                .select("tbody tr:has(:containsOwn(" + subject.mail() + "))")
                .text();
    }

    @Test
    void whatWasDeliveredSaysToWhomAndWhen() throws Exception {
        var subject = critical();
        eventually(() -> assertThat(mailOf(subject).state()).isEqualTo(Delivery.State.SENT));
        assertThat(row("", subject))
                .startsWith("Critical: heat is 9.0 on " + subject.key())
                .contains("Team of " + subject.key(), subject.mail(), "sent")
                .doesNotContain("Send now");
        assertThat(row("waiting", subject)).isEmpty();
        var dossier = analyst.page("/cases/" + caseOf(subject).get("id")).select("section:has(h2:contains(Call-outs))");
        assertThat(dossier.text()).contains(subject.mail());
    }

    @Test
    void whatDoesNotGetThroughSaysWhyAndIsSentWhenSomebodyAsks() throws Exception {
        MAIL.getSmtp().stopService();
        var subject = critical();
        eventually(() -> assertThat(mailOf(subject).failures()).isPositive());
        assertThat(row("waiting", subject))
                .containsPattern("\\d+ tr(y|ies) failed: ")
                .contains("Next try")
                .doesNotContain("Send now");
        assertThat(page.now()).anySatisfy(item -> {
            assertThat(item.words()).matches("mail failing since .+, \\d+ waiting");
            assertThat(item.mark()).isEqualTo("critical");
            assertThat(item.link()).isEqualTo("/callouts?show=waiting");
        });
        // It is for who has the case, or for a lead.
        var refused = analyst.post("/callouts/" + mailOf(subject).id() + "/send", "");
        assertThat(refused.statusCode()).isEqualTo(403);
        assertThat(refused.body()).contains("Take the case first");
        analyst.post(
                "/cases/" + caseOf(subject).get("id") + "/take",
                "version=" + caseOf(subject).get("version"));
        assertThat(row("waiting", subject)).endsWith("Send now");
        MAIL.reset();
        assertThat(Browser.to(analyst.post("/callouts/" + mailOf(subject).id() + "/send", "")))
                .isEqualTo("/callouts");
        eventually(() -> assertThat(mailOf(subject).state()).isEqualTo(Delivery.State.SENT));
        assertThat(row("waiting", subject)).isEmpty();
    }

    @Test
    void whatIsGivenUpStandsOnTheNowLineUntilItIsSent() throws Exception {
        MAIL.getSmtp().stopService();
        var subject = critical();
        eventually(() -> assertThat(mailOf(subject).failures()).isPositive());
        // A day of it, as the first try has it.
        jdbc.sql("update delivery set first_try = :then where id = :id")
                .param("then", Stamp.of(Instant.now().minusSeconds(25 * 3600)))
                .param("id", mailOf(subject).id())
                .update();
        eventually(() -> {
            jdbc.sql(
                            "update scheduled_tasks set execution_time = now() where task_name = 'mail-sending' and not picked")
                    .update();
            assertThat(mailOf(subject).state()).isEqualTo(Delivery.State.GIVEN_UP);
        });
        assertThat(page.now()).anySatisfy(item -> assertThat(item.words()).matches("\\d+ mails? not delivered"));
        assertThat(row("waiting", subject)).contains("failed").doesNotContain("Next try");
        assertThat(wholeLogOf(theCase(subject))).anyMatch(words -> words.contains(subject.mail()));
        MAIL.reset();
        loggedIn("lead").post("/callouts/" + mailOf(subject).id() + "/send", "");
        eventually(() -> assertThat(mailOf(subject).state()).isEqualTo(Delivery.State.SENT));
    }

    @Test
    void theTabsSayWhichListIsShown() throws Exception {
        assertThat(analyst.page("/callouts").select("nav.tabs [aria-current]").text())
                .isEqualTo("All call-outs");
        assertThat(analyst.page("/callouts?show=waiting")
                        .select("nav.tabs [aria-current]")
                        .text())
                .isEqualTo("Not delivered yet");
    }
}
