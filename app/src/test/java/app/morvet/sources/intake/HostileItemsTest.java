package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What one sender puts into a batch keeps nothing else out of it, and no answer is the server's fault. */
class HostileItemsTest extends MorvetTest {
    private static final String HALF = "\ud800";

    private List<Map<String, Object>> hostileEvents(Subject subject) {
        var now = Instant.now();
        var list = new ArrayList<Map<String, Object>>();
        for (var key : List.of(HALF, "a/b", "a\nb", "a;b", "..", "x".repeat(201)))
            list.add(failed(UUID.randomUUID().toString(), key, now));
        for (var time : List.of("+999999999-12-31T23:59:59Z", "-999999999-01-01T00:00:00Z", "0000-01-01T00:00:00Z"))
            list.add(Map.of(
                    "specversion",
                    "1.0",
                    "id",
                    "far " + time,
                    "source",
                    "/t",
                    "type",
                    "app.morvet.message.failed",
                    "subject",
                    subject.key(),
                    "time",
                    time,
                    "data",
                    Map.of()));
        list.add(failed(subject, Map.of("steps", List.of(Map.of("name", "send", "at", "+999999999-12-31T23:59:59Z")))));
        list.add(failed(subject, Map.of("attributes", Map.of("a", Map.of()))));
        list.add(ofRun("started", "job-" + subject.key(), "1", now, Map.of("scheduled", "+999999999-12-31T23:59:59Z")));
        return list;
    }

    @Test
    void whatIsGoodInABatchOfEventsIsTaken() throws Exception {
        var subject = subject();
        var batch = new ArrayList<>(hostileEvents(subject));
        int hostile = batch.size();
        batch.add(failed(subject, Map.of("error", "half " + HALF + " a character", "businessKey", "NUL \0")));
        batch.add(failed(subject, Map.of("error", "plain")));
        // As an escape, which is how half a character comes over the wire.
        var body = json.writeValueAsString(batch).replace(HALF, "\\ud800");
        var answer = send(KEY, "application/cloudevents-batch+json", body);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(202);
        assertThat(tree(answer).path("rejected")).hasSize(hostile);
        assertThat(tree(answer).path("accepted").asInt()).isEqualTo(2);
        assertThat(jdbc.sql("select error from failed_message where component_id = :id order by error")
                        .param("id", subject.id())
                        .query(String.class)
                        .list())
                .containsExactly("half \uFFFD a character", "plain");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{'component':'HALF','measure':'heat','value':1}",
                "{'component':'a/b','measure':'heat','value':1}",
                "{'component':'c','measure':'heat','value':1,'labels':{'a':{}}}",
                "{'component':'c','measure':'heat','value':1,'labels':{'a':null}}",
                "{'component':'c','measure':'heat','value':1,'labels':{'a':'HALF'}}",
                "{'component':'c','measure':'heat','value':1,'unit':'NUL'}",
                "{'component':'c','measure':'heat','value':1e999}",
                "{'component':'c','measure':'heat','value':1,'at':'+999999999-12-31T23:59:59Z'}",
                "{'component':'c','measure':'heat','value':1,'at':-1e300}",
                "{'component':'c','measure':'heat','value':1,'labels':LONG}"
            })
    void whatIsGoodInAListOfReadingsIsTaken(String bad) throws Exception {
        var labels = IntStream.range(0, 16)
                .mapToObj(i -> "'l%d':'%s'".formatted(i, "ä".repeat(200)))
                .collect(Collectors.joining(",", "{", "}"));
        var hostile = bad.replace("LONG", labels)
                .replace("HALF", "\\ud800")
                .replace("NUL", "\\u0000")
                .replace('\'', '"');
        var name = "good-" + UUID.randomUUID();
        var good = "{\"component\":\"%s\",\"measure\":\"heat\",\"value\":21.5}".formatted(name);
        var answer = tell("application/json", "[" + hostile + "," + good + "]");
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(202);
        assertThat(tree(answer).path("accepted").asInt()).isEqualTo(1);
        assertThat(tree(answer).path("rejected")).hasSize(1);
        assertThat(jdbc.sql("select value from reading r join series s on s.id = r.series_id"
                                + " join component c on c.id = s.component_id where c.key = :key")
                        .param("key", name)
                        .query(Double.class)
                        .list())
                .containsExactly(21.5);
    }

    @Test
    void ofManyBadLinesTheFirstAreToldAndKeptAsTheyWereSent() throws Exception {
        var answer = tell("x\n".repeat(20_000) + "heat{component=\"many-bad\"} 3\n");
        assertThat(answer.statusCode()).isEqualTo(202);
        assertThat(tree(answer).path("accepted").asInt()).isEqualTo(1);
        assertThat(tree(answer).path("rejected")).hasSize(101);
        assertThat(tree(answer).path("rejected").get(100).path("reason").asString())
                .startsWith("… and 19,900 more");
        assertThat(answer.body().length()).isLessThan(30_000);
    }

    @Test
    void whatIsTooMuchIsRefusedAsAWhole() throws Exception {
        assertThat(tell("x\n".repeat(200_001)).statusCode()).isEqualTo(413);
        var zeros = "[" + "0,".repeat(100_000) + "0]";
        assertThat(tell("application/json", zeros).statusCode()).isEqualTo(413);
        var tokens = "[" + "0,".repeat(4_000_000) + "0]";
        assertThat(tell("application/json", tokens).statusCode()).isEqualTo(400);
    }

    /** What is learned from two pages between which all counts lie in a bucket without end on both sides. */
    @Test
    void noPercentileIsStoredThatIsNotFinite() throws Exception {
        for (int count = 1; count <= 2; count++)
            for (var bound : List.of("-Inf", "NaN", "-1.7e308"))
                tell(
                        """
                        # TYPE wild histogram
                        wild_bucket{component="wild",le="%s"} %d
                        wild_bucket{component="wild",le="1.7e308"} %d
                        wild_bucket{component="wild",le="+Inf"} %d
                        """
                                .formatted(bound, count * 2, count * 4, count * 4));
        assertThat(jdbc.sql("select value from reading where value in ('NaN', 'Infinity', '-Infinity')")
                        .query(Double.class)
                        .list())
                .isEmpty();
    }
}
