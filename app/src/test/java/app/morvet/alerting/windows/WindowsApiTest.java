package app.morvet.alerting.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.Plan;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Windows as deployment tools open them, with keys that are bound; and the calendar that calendars read. */
class WindowsApiTest extends MorvetTest {
    @Autowired
    private Windows windows;

    @Autowired
    private WindowKeys windowKeys;

    private final String mark = "wa" + UUID.randomUUID().toString().substring(0, 8);
    private String key = "";

    @BeforeEach
    void aKeyForOneQuay() {
        setUpOnce();
        estate.add(mark, "Quay " + mark, "host", null);
        estate.add(mark + "-gate", "Gate of " + mark, "service", null);
        estate.standsOn(mark + "-gate", mark);
        estate.add(mark + "-other", "Other " + mark, "host", null);
        key = windowKeys.make(
                "deploys " + mark, true, Scope.ALL.named(mark).withAllOnIt(), Duration.ofMinutes(60), person("lead"));
    }

    private HttpResponse<String> post(String with, String path, String body) throws Exception {
        return HTTP.send(
                HttpRequest.newBuilder(URI.create("http://localhost:" + port + "/api/v1/windows" + path))
                        .header("Authorization", "Bearer " + with)
                        .header("Content-Type", "application/json")
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> get(String path) throws Exception {
        return HTTP.send(
                HttpRequest.newBuilder(URI.create("http://localhost:" + port + "/api/v1/windows" + path))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private String asked(String id, int minutes) {
        return "{\"id\": \"%s\", \"component\": \"%s\", \"minutes\": %d, \"reason\": \"new version\"}"
                .formatted(id, mark, minutes);
    }

    private long mine() {
        return windows.all().stream()
                .filter(one -> one.window().name().startsWith("deploys " + mark))
                .count();
    }

    private Plan.Span span(HttpResponse<String> answer) {
        var body = tree(answer);
        return new Plan.Span(
                Instant.parse(body.path("from").asString()),
                Instant.parse(body.path("to").asString()));
    }

    @Test
    void aToolOpensExtendsAndEndsOneByItsOwnNameOfIt() throws Exception {
        var opened = post(key, "", asked("d1", 20));
        assertThat(opened.statusCode()).isEqualTo(201);
        assertThat(span(opened).to()).isEqualTo(span(opened).from().plus(Duration.ofMinutes(20)));
        assertThat(windows.covering(estate.byKey(mark + "-gate").orElseThrow().id(), Instant.now()))
                .isPresent();
        // Asked again it is the same one, however else it is asked.
        var again = post(key, "", asked("d1", 40));
        assertThat(again.statusCode()).isEqualTo(200);
        assertThat(span(again)).isEqualTo(span(opened));
        assertThat(mine()).isEqualTo(1);
        var extended = post(key, "/d1/extend", "{\"minutes\": 15}");
        assertThat(Duration.between(span(extended).from(), span(extended).to())).isEqualTo(Duration.ofMinutes(35));
        var tooLong = post(key, "/d1/extend", "{\"minutes\": 30}");
        assertThat(tooLong.statusCode()).isEqualTo(422);
        assertThat(tree(tooLong).path("detail").asString())
                .isEqualTo("With this key a window is open for 1 to 60 minutes.");
        var ended = post(key, "/d1/end", "");
        assertThat(ended.statusCode()).isEqualTo(200);
        assertThat(span(ended).to()).isBefore(Instant.now().plusSeconds(61));
        assertThat(post(key, "/d1/end", "").statusCode()).isEqualTo(200);
    }

    @Test
    void askedTwentyTimesAtOnceItOpensOne() throws Exception {
        try (var many = Executors.newVirtualThreadPerTaskExecutor()) {
            var answers = many.invokeAll(IntStream.range(0, 20)
                    .<Callable<Integer>>mapToObj(
                            i -> () -> post(key, "", asked("at-once", 20)).statusCode())
                    .toList());
            int opened = 0;
            for (var one : answers) if (one.get() == 201) opened++;
            assertThat(opened).isEqualTo(1);
        }
        assertThat(mine()).isEqualTo(1);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "{} | Id is the tool's own name of the window, 1 to 100 letters.",
                "{\"id\": 5} | Id is a text.",
                "{\"id\": \"a\"} | Say component, or over; one of the two.",
                "{\"id\": \"a\", \"component\": \"MARK\"} | Minutes is a whole number, 1 or more.",
                "{\"id\": \"a\", \"component\": \"MARK\", \"minutes\": \"10\"} | Minutes is a whole number, 1 or more.",
                "{\"id\": \"a\", \"component\": \"MARK\", \"minutes\": 61} | With this key a window is open for 1 to 60 minutes.",
                "{\"id\": \"a\", \"component\": \"MARK*\", \"minutes\": 10} | Component is one key; patterns go into over.",
                "{\"id\": \"a\", \"component\": \"nowhere\", \"minutes\": 10} | Nothing in the estate is nowhere with all that stands on it.",
                "{\"id\": \"a\", \"over\": {\"name\": \"MARK*\"}, \"minutes\": 10} | This key is for Quay MARK with all that stands on it, and does not cover MARK-other.",
                "{\"id\": \"a\", \"component\": \"MARK\", \"minutes\": 10, \"effect\": \"mute\"} | Effect is hold or pause, was mute.",
                "[1] | The body is a JSON object."
            })
    void whatCannotBeOpenedIsRefusedAndSaysWhy(String body, String why) throws Exception {
        var answer = post(key, "", body.replace("MARK", mark));
        assertThat(answer.statusCode()).isEqualTo(422);
        assertThat(tree(answer).path("detail").asString()).isEqualTo(why.replace("MARK", mark));
        assertThat(mine()).isZero();
    }

    @Test
    void withoutAKeyThatHoldsNothingIsOpened() throws Exception {
        assertThat(post("mw_no", "", asked("d", 10)).statusCode()).isEqualTo(401);
        assertThat(post(KEY, "", asked("d", 10)).statusCode()).isEqualTo(401);
        var reads = windowKeys.make("reads " + mark, false, Scope.ALL, Duration.ofMinutes(5), person("lead"));
        assertThat(post(reads, "", asked("d", 10)).statusCode()).isEqualTo(401);
        post(key, "", asked("d", 10));
        // What was opened with one key is none of another's.
        var other = windowKeys.make("others " + mark, true, Scope.ALL, Duration.ofMinutes(60), person("lead"));
        assertThat(post(other, "/d/end", "").statusCode()).isEqualTo(404);
        windowKeys.all().stream()
                .filter(one -> one.name().equals("deploys " + mark))
                .forEach(one -> windowKeys.revoke(one.id(), person("lead")));
        assertThat(post(key, "/d/end", "").statusCode()).isEqualTo(401);
        assertThat(post(other, "", "{").statusCode()).isEqualTo(400);
    }

    @Test
    void theCalendarIsReadWithAKeyAtItsAddress() throws Exception {
        post(key, "", asked("seen", 30));
        var reads = windowKeys.make("reads " + mark, false, Scope.ALL, Duration.ofMinutes(5), person("lead"));
        var calendar = get(".ics?key=" + reads);
        assertThat(calendar.headers().firstValue("content-type").orElse("")).startsWith("text/calendar");
        assertThat(calendar.body().replace("\r\n ", ""))
                .contains("BEGIN:VCALENDAR", "SUMMARY:deploys " + mark + ": seen", "END:VCALENDAR");
        assertThat(get(".ics?key=mw_no").statusCode()).isEqualTo(401);
    }
}
