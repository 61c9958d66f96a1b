package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Mailed;
import app.morvet.MorvetTest;
import app.morvet.core.cases.SettleReason;
import app.morvet.work.cases.CaseBook;
import com.icegreen.greenmail.util.GreenMailUtil;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class CallOutTest extends MorvetTest {
    @Autowired
    CaseBook cases;

    @Autowired
    CallOutController callOuts;

    @Autowired
    DeliveryStore deliveries;

    @Autowired
    DeliverySending sending;

    private List<String> mailsTo(Subject subject) {
        return Arrays.stream(MAIL.getReceivedMessages())
                .filter(mail -> GreenMailUtil.getHeaders(mail).contains(subject.mail()))
                .map(mail -> {
                    try {
                        return mail.getSubject() + "\n" + Mailed.text(mail);
                    } catch (Exception unreadable) {
                        throw new IllegalStateException(unreadable);
                    }
                })
                .toList();
    }

    @Test
    void theOwningTeamIsToldWhenACaseIsCriticalAndWhenItIsOver() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 3);
        eventually(() -> caseOf(subject));
        assertThat(mailsTo(subject)).isEmpty();
        fail(subject, 3);
        eventually(() -> assertThat(mailsTo(subject)).hasSize(1));
        long id = (Long) caseOf(subject).get("id");
        assertThat(mailsTo(subject).getFirst())
                .startsWith("Critical: 6 failed in the last 10 min on Interface " + subject.key())
                .contains("which Team of " + subject.key() + " owns", "/cases/" + id);

        var one = cases.find(id).orElseThrow();
        // Settling can be taken back for a quarter of a minute; the mail waits that long, so it was settled before.
        cases.settle(id, one.version(), person("analyst"), SettleReason.MENDED, "", Instant.now());
        jdbc.sql("update scheduled_tasks set execution_time = now() where task_name = 'mail-sending'")
                .update();
        eventually(() -> assertThat(mailsTo(subject)).hasSize(2));
        assertThat(mailsTo(subject).getLast()).startsWith("Over: ");
    }

    /** It is asked less and less often; ten minutes are far from being given up, and when it is back there is one mail. */
    @Test
    void aMailServerThatIsAwayForTenMinutesLosesNothingAndDoublesNothing() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        MAIL.getSmtp().stopService();
        String id;
        try {
            fail(subject, 6);
            eventually(() -> assertThat(deliveries.ofCase((Long) caseOf(subject).get("id")))
                    .singleElement()
                    .matches(one -> one.failures() > 0));
            id = deliveries
                    .ofCase((Long) caseOf(subject).get("id"))
                    .getFirst()
                    .id()
                    .toString();
            var waited = Duration.ZERO;
            for (var before = Duration.ofSeconds(5); waited.compareTo(Duration.ofMinutes(10)) < 0; ) {
                var next = sending.run(id).orElseThrow();
                var wait = Duration.between(Instant.now(), next).plusSeconds(1);
                assertThat(wait).isGreaterThanOrEqualTo(before).isLessThanOrEqualTo(Duration.ofSeconds(301));
                before = wait.minusSeconds(1);
                waited = waited.plus(wait);
                // As if so long had gone by.
                jdbc.sql(
                                "update delivery set first_try = first_try - make_interval(secs => :wait) where id = :id::uuid")
                        .param("wait", wait.toSeconds())
                        .param("id", id)
                        .update();
            }
            assertThat(callOuts.now())
                    .anySatisfy(item -> assertThat(item.words()).startsWith("mail failing since"));
        } finally {
            MAIL.reset();
        }
        assertThat(sending.run(id)).isEmpty();
        assertThat(sending.run(id)).as("it is sent").isEmpty();
        assertThat(mailsTo(subject)).hasSize(1);
    }

    @Test
    void aMailServerThatFailsIsShownAndTriedAgain() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        MAIL.getSmtp().stopService();
        int port = MAIL.getSmtp().getPort();
        try {
            fail(subject, 6);
            eventually(() -> assertThat(callOuts.now())
                    .anySatisfy(item -> assertThat(item.words()).startsWith("mail failing since")));
            var row = jdbc.sql(
                            "select d.state, d.failures, d.last_error from delivery d join work_case c on c.id = d.case_id where c.component_id = :id")
                    .param("id", subject.id())
                    .query()
                    .singleRow();
            assertThat(row.get("state")).isEqualTo("WAITING");
            assertThat((Integer) row.get("failures")).isGreaterThanOrEqualTo(1);
            assertThat((String) row.get("last_error")).isNotBlank();
        } finally {
            MAIL.reset();
            assertThat(MAIL.getSmtp().getPort()).isEqualTo(port);
        }
        // Whatever waits is tried now rather than after its back-off.
        eventually(() -> {
            jdbc.sql(
                            "update scheduled_tasks set execution_time = now() where task_name = 'mail-sending' and not picked")
                    .update();
            assertThat(mailsTo(subject)).hasSize(1);
            assertThat(callOuts.now()).noneMatch(item -> item.words().startsWith("mail failing"));
        });
    }
}
