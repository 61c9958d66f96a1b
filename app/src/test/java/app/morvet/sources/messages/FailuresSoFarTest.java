package app.morvet.sources.messages;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What failed so far, asked again and again: it is counted once, and what is heard is added. */
class FailuresSoFarTest extends MorvetTest {
    private static final Instant BEGUN = Instant.now().minusSeconds(3600).truncatedTo(ChronoUnit.MILLIS);

    @Autowired
    private MessageStore store;

    @Autowired
    private TransactionTemplate transaction;

    private FailuresSoFar soFar;
    private Subject subject;
    private MessageScope scope;

    @BeforeEach
    void nothingIsCounted() {
        soFar = new FailuresSoFar(store);
        subject = subject();
        scope = MessageScope.of(subject.id());
    }

    private static Instant at(int second) {
        return BEGUN.plusSeconds(second);
    }

    /** So many at each of some seconds. */
    private void fail(int each, int... seconds) throws Exception {
        var events = new ArrayList<Map<String, Object>>();
        for (int second : seconds)
            for (int i = 0; i < each; i++) events.add(failed(UUID.randomUUID().toString(), subject.key(), at(second)));
        assertThat(send(events).statusCode()).isEqualTo(202);
    }

    /** As the round that takes them all out of the queue does. */
    private void heard(int... seconds) {
        for (int second : seconds) soFar.heard(subject.id(), 1, at(second));
    }

    private FailedSpan since(int second) {
        return soFar.since(scope, at(second));
    }

    private void allAreTold() throws Exception {
        eventually(() -> assertThat(jdbc.sql("select count(*) from untold_failure")
                        .query(Long.class)
                        .single())
                .isZero());
    }

    @Test
    void whatIsHeardIsAddedWhereItFallsAndAllOfItIsCountedOnce() throws Exception {
        fail(2, 60, 200);
        allAreTold();
        assertThat(since(60)).isEqualTo(new FailedSpan(4, at(60), at(200)));
        assertThat(since(100)).isEqualTo(new FailedSpan(2, at(200), at(200)));
        heard(300, 90, 100, 30);
        assertThat(since(60)).isEqualTo(new FailedSpan(7, at(60), at(300)));
        assertThat(since(100)).isEqualTo(new FailedSpan(4, at(100), at(300)));
        soFar.heard(subject.id() + 1, 1, at(300));
        assertThat(since(60).failures()).as("that was another interface").isEqualTo(7);
        soFar.missedSome();
        assertThat(since(60)).as("counted anew").isEqualTo(new FailedSpan(4, at(60), at(200)));
    }

    /** Else it would be counted twice: as it stands there, and when it is heard. */
    @Test
    void whatWaitsToBeToldIsNotCountedUnlessItWasToldBefore() throws Exception {
        fail(1, 60, 200);
        allAreTold();
        var queued =
                """
                insert into untold_failure (id, at, repeat, known)
                select id, at, :repeat, :known from failed_message where component_id = :id and at = :at""";
        whileNothingIsTold(() -> {
            for (var one : List.of(List.of(60, false, false), List.of(200, false, true), List.of(200, true, false)))
                jdbc.sql(queued)
                        .param("id", subject.id())
                        .param("at", Stamp.of(at((int) one.get(0))))
                        .param("repeat", one.get(1))
                        .param("known", one.get(2))
                        .update();
            assertThat(since(0)).isEqualTo(new FailedSpan(1, at(200), at(200)));
            heard(60);
            assertThat(since(0)).isEqualTo(new FailedSpan(2, at(60), at(200)));
        });
    }

    /** In a transaction that is rolled back, so that nobody else takes it. */
    private void whileNothingIsTold(Check check) {
        transaction.executeWithoutResult(status -> {
            status.setRollbackOnly();
            try {
                check.run();
            } catch (Exception failed) {
                throw new IllegalStateException(failed);
            }
        });
    }

    @Test
    void whatARuleTakesIsCountedEachTime() throws Exception {
        long rule = sorting(subject, "no answer", false).id();
        var ofRule = new MessageScope(null, null, rule);
        fail(1, 60);
        allAreTold();
        assertThat(soFar.since(ofRule, at(0)).failures()).isEqualTo(1);
        fail(1, 200);
        allAreTold();
        assertThat(soFar.since(ofRule, at(0)).failures()).isEqualTo(2);
    }

    /** As the case has it, to which each round adds. */
    @Test
    void aCaseCountsEachOfThemOnceThoughSomeComeLate() throws Exception {
        sorting(subject, "no answer", false);
        fail(3, 60, 200);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 6L));
        fail(10, 260);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 16L));
        fail(7, 100);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 23L));
        fail(1, 270);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 24L));
    }
}
