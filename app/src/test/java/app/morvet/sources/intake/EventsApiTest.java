package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class EventsApiTest extends MorvetTest {
    private long stored(Subject subject) {
        return jdbc.sql("select count(*) from failed_message where component_id = :id")
                .param("id", subject.id())
                .query(Long.class)
                .single();
    }

    private Map<String, Object> with(Map<String, Object> event, String name, Object value) {
        var changed = new HashMap<>(event);
        if (value == null) changed.remove(name);
        else changed.put(name, value);
        return changed;
    }

    @Test
    void anUnknownKeyIsRefusedBeforeAnythingIsRead() throws Exception {
        var answer = send("no such key", "application/cloudevents-batch+json", "not even JSON");
        assertThat(answer.statusCode()).isEqualTo(401);
        assertThat(answer.headers().firstValue("content-type")).contains("application/problem+json");
        assertThat(answer.headers().firstValue("www-authenticate")).contains("Bearer realm=\"intake\"");
    }

    @Test
    void aRevokedKeyNoLongerOpens() throws Exception {
        setUpOnce();
        long feed = estate.feeds().getFirst().id();
        keys.add("to revoke", feed, "soon-revoked");
        assertThat(send("soon-revoked", "application/cloudevents-batch+json", "[]")
                        .statusCode())
                .isEqualTo(202);
        long id = keys.all().stream()
                .filter(key -> key.name().equals("to revoke"))
                .findFirst()
                .orElseThrow()
                .id();
        keys.revoke(id, person("admin"));
        assertThat(send("soon-revoked", "application/cloudevents-batch+json", "[]")
                        .statusCode())
                .isEqualTo(401);
    }

    @Test
    void anUnreadableBodyIsOneProblemWithItsPlace() throws Exception {
        var answer = send(KEY, "application/cloudevents-batch+json", "[{\"id\": \n ]");
        assertThat(answer.statusCode()).isEqualTo(400);
        assertThat(tree(answer).get("title").asString()).isEqualTo("Unreadable body");
        assertThat(tree(answer).get("detail").asString()).contains("line 2");
        assertThat(send(KEY, "application/cloudevents-batch+json", "17").statusCode())
                .isEqualTo(400);
        assertThat(send(KEY, "application/cloudevents-batch+json", "").statusCode())
                .isEqualTo(400);
        assertThat(send(KEY, "text/plain", "[]").statusCode()).isEqualTo(415);
    }

    @Test
    void tooMuchIsRefusedAndSaysHowMuchMay() throws Exception {
        assertThat(send(KEY, "application/json", " ".repeat(32 * 1024 * 1024 + 1))
                        .statusCode())
                .isEqualTo(413);
        var many = send(KEY, "application/json", "[" + "{},".repeat(5000) + "{}]");
        assertThat(many.statusCode()).isEqualTo(413);
        assertThat(tree(many).get("detail").asString()).isEqualTo("At most 5,000 events in a batch, were 5,001.");
        assertThat(send(KEY, "application/json", "[".repeat(5_000_000)).statusCode())
                .isEqualTo(400);
    }

    @Test
    void aBatchIsJudgedItemByItemAndWhatIsRefusedIsKept() throws Exception {
        var subject = subject();
        var now = Instant.now();
        var good = failed(UUID.randomUUID().toString(), subject.key(), now);
        var data = Map.of("businessKey", "x".repeat(300), "step", "s", "error", "e");
        var events = List.of(
                good,
                with(good, "time", now.plus(Duration.ofHours(1)).toString()),
                with(good, "time", now.minus(Duration.ofDays(800)).toString()),
                with(good, "time", "yesterday"),
                with(good, "specversion", "0.3"),
                with(good, "type", "something.else"),
                with(good, "subject", null),
                with(good, "data", data),
                with(good, "id", UUID.randomUUID().toString()),
                "no object");
        var answer = send(events);
        assertThat(answer.statusCode()).isEqualTo(202);
        var told = tree(answer);
        assertThat(told.get("accepted").intValue()).isEqualTo(2);
        var reasons = new ArrayList<String>();
        told.get("rejected")
                .forEach(one -> reasons.add(
                        one.get("index").intValue() + " " + one.get("reason").asString()));
        assertThat(reasons)
                .satisfiesExactly(
                        one -> assertThat(one)
                                .startsWith("1 time ")
                                .contains("more than 5 min in the future; check the sender's clock"),
                        one -> assertThat(one).startsWith("2 time ").endsWith("is more than 90 days old"),
                        one -> assertThat(one)
                                .startsWith("3 time must be a time as in RFC 3339")
                                .endsWith("was \"yesterday\""),
                        one -> assertThat(one).isEqualTo("4 specversion must be \"1.0\", was \"0.3\""),
                        one -> assertThat(one).startsWith("5 type \"something.else\" is not known; known are"),
                        one -> assertThat(one).isEqualTo("6 subject is missing"),
                        one -> assertThat(one)
                                .isEqualTo("7 data: businessKey is too long: at most 200 characters, were 300"),
                        one -> assertThat(one).isEqualTo("9 an event must be a JSON object"));
        assertThat(stored(subject)).isEqualTo(2);
        var kept = jdbc.sql("select count(*) from rejected_event where event_id = :id")
                .param("id", good.get("id"))
                .query(Long.class)
                .single();
        assertThat(kept).isEqualTo(7);
    }

    @Test
    void theSameEventTwiceCountsOnce() throws Exception {
        var subject = subject();
        var event = failed("same-" + subject.key(), subject.key(), Instant.now());
        assertThat(tree(send(List.of(event, event))).get("accepted").intValue()).isEqualTo(2);
        assertThat(send(KEY, "application/cloudevents+json", json.writeValueAsString(event))
                        .statusCode())
                .isEqualTo(202);
        assertThat(stored(subject)).isEqualTo(1);
    }

    @Test
    void anUnknownInterfaceIsKeptAndWaitsToBeAssigned() throws Exception {
        setUpOnce();
        var key = "never-heard-of-" + UUID.randomUUID();
        assertThat(send(List.of(failed("1", key, Instant.now()))).statusCode()).isEqualTo(202);
        var found = estate.byKey(key).orElseThrow();
        assertThat(found.applicationId()).isNull();
        assertThat(estate.ownerOf(found)).isEmpty();
        assertThat(jdbc.sql("select count(*) from failed_message where component_id = :id")
                        .param("id", found.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(1);
    }

    @Test
    void countsOfDeliveredMessagesAddUpAndRepeatsDoNot() throws Exception {
        var subject = subject();
        var to = Instant.now();
        var event = Map.of(
                "specversion",
                "1.0",
                "id",
                "d1",
                "source",
                "/t",
                "type",
                "app.morvet.messages.delivered",
                "subject",
                subject.key(),
                "time",
                to.toString(),
                "data",
                Map.of("from", to.minusSeconds(60).toString(), "delivered", 17));
        send(List.of(event));
        send(List.of(
                event, with(event, "id", "d2"), with(event, "data", Map.of("from", to.toString(), "delivered", 1))));
        assertThat(jdbc.sql("select sum(delivered) from carried_count where component_id = :id")
                        .param("id", subject.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(34);
    }

    @Test
    void aNulCharacterIsMarkedAndNothingIsLost() throws Exception {
        var subject = subject();
        var event = failed("nul", subject.key(), Instant.now());
        var data = Map.of("error", "broken \0 text", "payload", "a\0b");
        assertThat(send(List.of(with(event, "data", data))).statusCode()).isEqualTo(202);
        assertThat(jdbc.sql("select payload from failed_message where component_id = :id")
                        .param("id", subject.id())
                        .query(String.class)
                        .single())
                .isEqualTo("a\uFFFDb");
    }
}
