package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Mailed;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import com.github.kagkarlsson.scheduler.Scheduler;
import java.time.Instant;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** In a storm people are told of the first at once, and of all else in one. */
class ManyAtOnceTest extends ToldByText {
    @Autowired
    private Scheduler scheduler;

    @AfterEach
    void errandsGoOn() {
        scheduler.resume();
    }

    /** From here on only a test sends: the minute that the first began may be over before all else is told. */
    private void onlyByHand() {
        scheduler.pause();
    }

    /** In a storm a telephone rings at once, and once more at the end of the minute for all else. */
    @Test
    void theFirstOfAMinuteIsToldAtOnceAndTheOthersInOne() throws Exception {
        byText(Way.TEXT);
        critical();
        eventually(() -> assertThat(texts()).hasSize(1));
        onlyByHand();
        var ids = new java.util.ArrayList<String>();
        for (int other = 0; other < 3; other++) {
            var another = component("host");
            var step = step(new Whom.One(first), 0, Way.TEXT);
            var mine = host;
            host = another;
            rule("Also", Happening.OPENED, null, false, step);
            raised(guard, another, minute, CRITICAL, 10 + other);
            ids.add(deliveries.ofCase(theCase(another).id()).getFirst().id().toString());
            host = mine;
        }
        assertThat(jdbc.sql(
                                "select count(*) from delivery where burst and person_id = :who and next_try >= made_at + interval '1 minute'")
                        .param("who", first)
                        .query(Integer.class)
                        .single())
                .as("they wait for the end of the minute that the first began")
                .isEqualTo(3);
        jdbc.sql("update delivery set next_try = now() - interval '1 s' where person_id = :who and burst")
                .param("who", first)
                .update();
        var together = deliveries.burst(
                deliveries.byId(UUID.fromString(ids.getFirst())).orElseThrow(), Instant.now());
        assertThat(together).hasSize(3);
        assertThat(sending.run(together.getLast().id().toString()))
                .as("the first of them takes the others with it")
                .isPresent();
        assertThat(texts()).hasSize(1);
        assertThat(sending.run(together.getFirst().id().toString())).isEmpty();
        assertThat(texts()).hasSize(2);
        assertThat(texts().getLast())
                .contains("words=3 cases. Critical: heat is 1")
                .containsPattern(LINK);
        for (var id : ids)
            assertThat(deliveries.byId(UUID.fromString(id)).orElseThrow().state())
                    .isEqualTo(Delivery.State.SENT);
        assertThat(sending.run(together.getLast().id().toString()))
                .as("nothing is left")
                .isEmpty();
    }

    @Test
    void aMailOfSeveralCasesBearsTheLinkOfEach() throws Exception {
        rule("Mail", Happening.OPENED, null, false, step(new Whom.OnDuty(Whom.OWNER, 0), 0, Way.MAIL));
        critical();
        eventually(
                () -> assertThat(MAIL.getReceivedMessagesForDomain(mail(first))).hasSize(1));
        onlyByHand();
        var ids = new java.util.ArrayList<String>();
        var mine = host;
        for (int other = 0; other < 2; other++) {
            host = component("host");
            rule("Also", Happening.OPENED, null, false, step(new Whom.One(first), 0, Way.MAIL));
            raised(guard, host, minute, CRITICAL, 10 + other);
            ids.add(deliveries.ofCase(caseId()).getFirst().id().toString());
        }
        host = mine;
        jdbc.sql("update delivery set next_try = now() - interval '1 s' where person_id = :who and burst")
                .param("who", first)
                .update();
        var together = deliveries.burst(
                deliveries.byId(UUID.fromString(ids.getFirst())).orElseThrow(), Instant.now());
        sending.run(together.getFirst().id().toString());
        var mails = MAIL.getReceivedMessagesForDomain(mail(first));
        assertThat(mails).hasSize(2);
        assertThat(mails[1].getSubject()).startsWith("2 cases. Critical: heat is 1");
        var links = LINK.matcher(Mailed.text(mails[1]))
                .results()
                .map(one -> one.group(1))
                .distinct();
        assertThat(links).hasSize(2);
    }
}
