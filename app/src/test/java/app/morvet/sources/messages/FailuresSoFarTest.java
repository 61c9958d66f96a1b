package app.morvet.sources.messages;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What failed so far, asked again and again: what is old is counted once, and again where something as old is heard. */
class FailuresSoFarTest extends MorvetTest {
    private static final Instant BEGUN = Instant.now().minusSeconds(3600).truncatedTo(ChronoUnit.MILLIS);
    private static final Instant END = BEGUN.plusSeconds(36_000);

    @Autowired
    private MessageStore store;

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

    private void heard(int second) {
        soFar.heard(subject.id(), 1, at(second));
    }

    private MessageStore.Span since(int second) {
        return soFar.since(scope, at(second), END);
    }

    @Test
    void itIsWhatCountingAllOfItWouldSay() throws Exception {
        fail(200, 0, 90, 150);
        assertThat(since(0)).isEqualTo(new MessageStore.Span(600, at(0), at(150)));
        for (int second : List.of(151, 140, 300, 299, 239, 2, 600, 1000)) {
            fail(50, second);
            heard(second);
            assertThat(since(0)).as("after one at " + second).isEqualTo(store.span(scope, at(0), END));
            assertThat(since(60)).as("later, after one at " + second).isEqualTo(store.span(scope, at(60), END));
        }
        assertThat(since(0)).isEqualTo(new MessageStore.Span(1000, at(0), at(1000)));
    }

    @Test
    void whatIsOldIsCountedAgainOnlyWhereSomethingAsOldIsHeard() throws Exception {
        fail(250, 0, 150);
        assertThat(since(0).failures()).isEqualTo(500);
        fail(1, 10, 160);
        assertThat(since(0)).as("what is new counts").isEqualTo(new MessageStore.Span(501, at(0), at(160)));
        heard(160);
        soFar.heard(subject.id() + 1, 1, at(10));
        assertThat(since(0).failures()).as("of others nothing is old").isEqualTo(501);
        heard(10);
        assertThat(since(0).failures()).isEqualTo(502);
        fail(1, 20);
        assertThat(since(0).failures()).isEqualTo(502);
        soFar.missedSome();
        assertThat(since(0).failures()).as("others may have heard").isEqualTo(503);
    }

    @Test
    void whatARuleTakesAndWhatAreFewIsCountedEachTime() throws Exception {
        fail(200, 0, 150);
        assertThat(since(0).failures()).isEqualTo(400);
        fail(120, 10);
        assertThat(since(0).failures()).isEqualTo(520);
        long rule = jdbc.sql("select min(rule_id) from failed_message where component_id = :id")
                .param("id", subject.id())
                .query(Long.class)
                .single();
        var ofRule = new MessageScope(subject.id(), null, rule);
        assertThat(soFar.since(ofRule, at(0), END).failures()).isEqualTo(520);
        fail(1, 20);
        assertThat(soFar.since(ofRule, at(0), END).failures()).isEqualTo(521);
    }

    /** As the case has it, to which each round adds. */
    @Test
    void aCaseOfManyCountsEachOfThemThoughSomeComeLate() throws Exception {
        sorting(subject, "no answer", false);
        fail(300, 60, 200);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 600L));
        fail(10, 260);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 610L));
        fail(7, 100);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 617L));
        fail(1, 270);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", 618L));
    }
}
