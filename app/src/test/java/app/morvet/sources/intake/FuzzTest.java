package app.morvet.sources.intake;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Consumer;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.core.io.ClassPathResource;
import tools.jackson.databind.node.ArrayNode;

/**
 * Everything that is read from outside, changed at random: nothing is answered with an error of Morvet's, nothing takes long, and
 * no good item is lost for a bad one beside it. The same seeds each time; {@code ./morvet bench fuzz} takes others and more of
 * them, and says of a failure with which seed it is had again.
 */
class FuzzTest extends MorvetTest {
    @org.springframework.beans.factory.annotation.Autowired
    app.morvet.sources.outposts.Outposts outposts;

    private static final long SEED = Long.getLong("fuzz.seed", 20270318);
    private static final int TRIES = Integer.getInteger("fuzz.tries", 40);
    private static final Duration AT_MOST = Duration.ofSeconds(10);

    private Browser lead;
    private String mark;

    @BeforeEach
    void before() throws Exception {
        lead = loggedIn("lead");
        mark = "fuzz" + UUID.randomUUID().toString().substring(0, 8);
    }

    private static void tries(Consumer<Mutations> one) {
        for (long seed = SEED; seed < SEED + TRIES; seed++) {
            try {
                one.accept(new Mutations(seed));
            } catch (RuntimeException | AssertionError failed) {
                throw new AssertionError(
                        "with -Dfuzz.seed=" + seed + " -Dfuzz.tries=1: " + failed.getMessage(), failed);
            }
        }
    }

    private HttpResponse<String> told(String path, String type, String body) {
        var request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .header("Authorization", "Bearer " + KEY)
                .header("Content-Type", type)
                .timeout(AT_MOST)
                .POST(HttpRequest.BodyPublishers.ofString(body));
        try {
            var answer = HTTP.send(request.build(), HttpResponse.BodyHandlers.ofString());
            assertThat(answer.statusCode()).as(answer.body()).isLessThan(500);
            return answer;
        } catch (java.io.IOException | InterruptedException failed) {
            throw new AssertionError("no answer: " + failed, failed);
        }
    }

    /** Two good events around one that was changed: both are taken, whatever became of the third. */
    @Test
    void noGoodEventIsLostForABadOne() throws Exception {
        var subject = subject();
        var right = new ArrayList<Object>(List.of(
                failed(
                        subject,
                        Map.of(
                                "steps",
                                List.of(Map.of(
                                        "name", "ask", "at", Instant.now().toString())))),
                ofRun(
                        "started",
                        mark + "-job",
                        "r1",
                        Instant.now(),
                        Map.of("expectedEnd", Instant.now().plusSeconds(60).toString())),
                event(
                        "app.morvet.state.changed",
                        mark + "-gate",
                        Instant.now(),
                        Map.of(
                                "measure",
                                "gate_" + mark,
                                "state",
                                "open",
                                "words",
                                List.of("open", "shut"),
                                "said",
                                "by hand")),
                event("app.morvet.alive", mark + "-beat", Instant.now(), Map.of("every", "PT5M", "leeway", "PT1M")),
                event(
                        "app.morvet.change.observed",
                        mark + "-gate",
                        Instant.now(),
                        Map.of("what", "setting", "name", "limit", "before", "1", "after", "2", "by", "somebody"))));
        tries(mutations -> {
            var batch = (ArrayNode) json.valueToTree(List.of(
                    failed(subject, Map.of()), right.get(mutations.upTo(right.size())), failed(subject, Map.of())));
            batch.set(1, mutations.of(batch.get(1)));
            var answer = told("/api/v1/events", "application/cloudevents-batch+json", json.writeValueAsString(batch));
            assertThat(answer.statusCode()).as(answer.body()).isEqualTo(202);
            tree(answer).path("rejected").forEach(one -> assertThat(
                            one.path("index").asInt())
                    .as(answer.body())
                    .isEqualTo(1));
        });
        assertThat(jdbc.sql("select count(*) from failed_message where component_id = :id")
                        .param("id", subject.id())
                        .query(Integer.class)
                        .single())
                .isGreaterThanOrEqualTo(2 * TRIES);
    }

    /** Whatever an outpost tells: a word that is none is refused, and what is right beside it is taken. */
    @Test
    void noWordOfAnOutpostIsAnError() {
        var name = mark + "-op";
        outposts.add(name, name, "key-" + name);
        tries(mutations -> {
            var word = json.createObjectNode()
                    .put("spool", mark)
                    .put("at", Instant.now().toString())
                    .put("brief", "b");
            word.set("offers", json.valueToTree(List.of("processor")));
            word.set(
                    "may",
                    json.readTree(
                            "{\"lines\":[\"x\"],\"actions\":[{\"name\":\"restart\",\"of\":\"x\",\"right\":\"lead\",\"arguments\":{\"how\":[\"a\"]}}]}"));
            word.set(
                    "told",
                    json.readTree(
                            "{\"processes\":[{\"all\":[{\"id\":1,\"name\":\"x\",\"processor\":1.5}]}],\"tries\":[{\"id\":1,\"state\":\"passed\"}]}"));
            var items = word.putArray("items");
            items.add(
                    mutations.of(
                            json.readTree(
                                    "{\"n\":1,\"readings\":[{\"measure\":\"tide\",\"value\":1,\"labels\":{\"a\":\"b\"}}],\"checks\":{\"id\":1,\"state\":\"passed\"},\"orders\":{\"id\":1,\"state\":\"DONE\"}}")));
            var changed = mutations.of(word);
            var request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/outposts/word"))
                    .header("Authorization", "Bearer key-" + name)
                    .header("X-Outpost", name)
                    .timeout(AT_MOST)
                    .POST(HttpRequest.BodyPublishers.ofString(json.writeValueAsString(changed)));
            try {
                var answer = HTTP.send(request.build(), HttpResponse.BodyHandlers.ofString());
                assertThat(answer.statusCode())
                        .as(answer.body() + " to " + changed)
                        .isLessThan(500);
            } catch (java.io.IOException | InterruptedException failed) {
                throw new AssertionError("no answer: " + failed, failed);
            }
        });
    }

    @Test
    void eventsThatAreNoJsonAreRefused() {
        var whole = json.writeValueAsString(List.of(failed(mark, mark, Instant.now())));
        tries(mutations -> told("/api/v1/events", "application/cloudevents-batch+json", mutations.of(whole)));
        tries(mutations -> told("/api/v1/events", "application/cloudevents+json", mutations.of(whole.substring(1))));
        tries(mutations ->
                told("/api/v1/events", mutations.of("application/json").replaceAll("[^ -~]", ""), whole));
    }

    /** A line of a page, or a reading of a list, that was changed takes no other with it. */
    @Test
    void noGoodReadingIsLostForABadOne() {
        int[] place = {0};
        tries(mutations -> {
            var key = mark + place[0]++;
            // What stands behind what a collector wrote is a line of its own.
            var page = "tide{component=\"" + key + "\",kind=\"host\"} 1.5\n"
                    + mutations
                            .of("# TYPE wave histogram\nwave_bucket{component=\"w\",le=\"0.5\"} 2 1799999999")
                            .replace('"', '\'')
                            // Behind the end of a page there is nothing that could be lost.
                            .replace("EOF", "EOL")
                    + "\nwind{component=\"" + key + "\"} 2.5\n";
            told("/api/v1/readings", "text/plain", page);
            assertThat(readingsOf(key)).as(page).isEqualTo(2);
        });
        tries(mutations -> {
            var key = mark + place[0]++;
            var good = Map.of(
                    "component",
                    key,
                    "measure",
                    "tide",
                    "value",
                    1.5,
                    "at",
                    Instant.now().toString());
            var list = (ArrayNode) json.valueToTree(List.of(good, good, good));
            list.set(1, mutations.of(list.get(1)));
            told("/api/v1/readings", "application/json", json.writeValueAsString(list));
            assertThat(readingsOf(key)).as(list.toString()).isGreaterThanOrEqualTo(1);
        });
    }

    private int readingsOf(String component) {
        return jdbc.sql(
                        """
                        select count(*) from reading r join series s on s.id = r.series_id join component c on c.id = s.component_id
                         where c.key = :key""")
                .param("key", component)
                .query(Integer.class)
                .single();
    }

    @Test
    void pagesInOpenMetricsAreReadOrRefused() {
        var page =
                """
                # HELP tide Height of the tide.
                # TYPE tide gauge
                # UNIT tide_metres metres
                tide{component="%1$s",kind="host"} 1.5 1799999999.5
                # TYPE passengers counter
                passengers_total{component="%1$s"} 17 # {trace="a"} 1.0
                # TYPE crossing histogram
                crossing_bucket{component="%1$s",le="0.5"} 2
                crossing_bucket{component="%1$s",le="+Inf"} 3
                crossing_count{component="%1$s"} 3
                crossing_sum{component="%1$s"} 4.5
                # EOF
                """
                        .formatted(mark);
        tries(mutations -> told("/api/v1/readings", "application/openmetrics-text; version=1.0.0", mutations.of(page)));
        tries(mutations -> told("/api/v1/readings", "text/plain", mutations.of(page)));
    }

    /** Files that people hand in, as they are looked at before anything is changed. */
    @ParameterizedTest
    @CsvSource({
        "/guards/file, guards.yaml",
        "/messages/rules/file, sorting-rules.yaml",
        "/batch/file, jobs.txt",
        "/batch/file, jobs.csv",
        "/batch/file, jobs.json",
        "/batch/file, crontab",
        "/estate/file, components",
        "/estate/file, applications"
    })
    void filesAreReadOrRefused(String path, String sample) throws Exception {
        var whole = SAMPLES.containsKey(sample)
                ? SAMPLES.get(sample)
                : new ClassPathResource("fuzz/" + sample).getContentAsString(StandardCharsets.UTF_8);
        tries(mutations -> handedIn(path, "text=" + encoded(readable(mutations.of(whole)))));
    }

    private static final Map<String, String> SAMPLES = Map.of(
            "crontab",
            "# nightly\nMAILTO=ops\n10 4 * * * /opt/jobs/sound-the-horn --twice\n*/15 6-22 * * mon-fri ring-the-bell\n",
            "components",
            "key,name,kind,application,stands on\nquay-05,\"Quay, five\",host,,\ngates,Gates,service,boarding,quay-05\n",
            "applications",
            "key;name;tier;environment;team\nboarding;Boarding;1;production;platform\n");

    @Test
    void calendarsAreReadOrRefused() {
        var calendar =
                """
                BEGIN:VCALENDAR
                VERSION:2.0
                PRODID:-//Sundrava//Holidays//EN
                BEGIN:VEVENT
                UID:1@sundrava.example
                DTSTAMP:20260101T000000Z
                DTSTART;VALUE=DATE:20260101
                DURATION:P1D
                RRULE:FREQ=YEARLY;BYMONTH=1;BYMONTHDAY=1
                EXDATE;VALUE=DATE:20280101
                SUMMARY:New Year
                END:VEVENT
                END:VCALENDAR
                """
                        .replace("\n", "\r\n");
        tries(mutations ->
                handedIn("/batch/calendars", "name=" + mark + "&text=" + encoded(readable(mutations.of(calendar)))));
    }

    /** What a form can bear. */
    private static String readable(String text) {
        return text.replaceAll("[\\ud800-\\udfff]", "\uFFFD");
    }

    private void handedIn(String path, String form) {
        try {
            long begun = System.nanoTime();
            var answer = lead.post(path, form);
            assertThat(answer.statusCode()).as(answer.body()).isLessThan(500);
            assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(AT_MOST);
        } catch (Exception failed) {
            throw new AssertionError("no answer: " + failed, failed);
        }
    }
}
