package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import io.cloudevents.CloudEvent;
import io.cloudevents.core.builder.CloudEventBuilder;
import io.cloudevents.http.HttpMessageFactory;
import io.cloudevents.jackson.JsonFormat;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.UUID;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;

/** The HTTP protocol binding of CloudEvents 1.0, spoken by the SDK of those who wrote it and by hand. */
class CloudEventsTest extends MorvetTest {
    private CloudEventBuilder event(Subject subject) {
        return CloudEventBuilder.v1()
                .withId(UUID.randomUUID().toString())
                .withSource(URI.create("/t"))
                .withType("app.morvet.message.failed")
                .withSubject(subject.key())
                .withTime(OffsetDateTime.now())
                .withExtension("traceparent", "00-1-2-3")
                .withData(
                        "application/json",
                        "{\"businessKey\":\"Ä-1\",\"error\":\"no\"}".getBytes(StandardCharsets.UTF_8));
    }

    private HttpRequest.Builder post() {
        setUpOnce();
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/events"))
                .header("Authorization", "Bearer " + KEY);
    }

    private HttpResponse<String> post(HttpRequest.Builder request, byte[] body) throws Exception {
        return HTTP.send(
                request.POST(HttpRequest.BodyPublishers.ofByteArray(body)).build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> binary(CloudEvent event) throws Exception {
        var request = post();
        var body = new ByteArrayOutputStream();
        HttpMessageFactory.createWriter(request::header, bytes -> body.writeBytes(bytes == null ? new byte[0] : bytes))
                .writeBinary(event);
        return post(request, body.toByteArray());
    }

    private HttpResponse<String> structured(CloudEvent event, Charset charset) throws Exception {
        var text = new String(new JsonFormat().serialize(event), StandardCharsets.UTF_8);
        return post(
                post().header("Content-Type", "application/cloudevents+json; charset=" + charset),
                text.getBytes(charset));
    }

    private String stored(Subject subject) {
        return String.join(
                " ",
                jdbc.sql("select business_key from failed_message where component_id = :id order by id")
                        .param("id", subject.id())
                        .query(String.class)
                        .list());
    }

    private static byte[] packed(byte[] plain) throws Exception {
        var out = new ByteArrayOutputStream();
        try (var gzip = new GZIPOutputStream(out)) {
            gzip.write(plain);
        }
        return out.toByteArray();
    }

    @Test
    void anEventComesInBinaryModeWithItsAttributesAsHeaders() throws Exception {
        var subject = subject();
        var event = event(subject).build();
        assertThat(binary(event).statusCode()).isEqualTo(202);
        assertThat(stored(subject)).isEqualTo("Ä-1");
        // The same in another mode is the same event.
        assertThat(structured(event, StandardCharsets.UTF_8).statusCode()).isEqualTo(202);
        assertThat(stored(subject)).isEqualTo("Ä-1");
    }

    @Test
    void inBinaryModeHeadersArePercentDecodedAndAnEventIsJudgedAsAnyOther() throws Exception {
        var subject = subject();
        var request = post().header("ce-specversion", "1.0")
                .header("ce-id", "caf%C3%A9 %E2%82%AC")
                .header("ce-source", "/t")
                .header("ce-type", "app.morvet.message.failed")
                .header("ce-subject", subject.key())
                .header("ce-time", Instant.now().toString());
        var good = post(
                request.copy().header("Content-Type", "application/json"),
                "{\"error\":\"x\"}".getBytes(StandardCharsets.UTF_8));
        assertThat(tree(good).path("accepted").asInt()).isEqualTo(1);
        assertThat(jdbc.sql("select event_id from failed_message where component_id = :id")
                        .param("id", subject.id())
                        .query(String.class)
                        .single())
                .isEqualTo("café €");
        var text = post(request.copy().header("Content-Type", "text/plain"), "x".getBytes(StandardCharsets.UTF_8));
        assertThat(text.body()).contains("data must be JSON, datacontenttype was \\\"text/plain\\\"");
        var none = post(request.copy(), new byte[0]);
        assertThat(none.body()).contains("data is missing");
        assertThat(post(post().header("Content-Type", "application/json").header("ce-id", "only"), new byte[0])
                        .body())
                .contains("specversion must be");
    }

    @Test
    void dataMayBeCodedInBase64ButNotBesidePlainData() throws Exception {
        var subject = subject();
        var coded = java.util.Base64.getEncoder()
                .encodeToString("{\"businessKey\":\"B-64\",\"error\":\"no\"}".getBytes(StandardCharsets.UTF_8));
        var event =
                "{\"specversion\":\"1.0\",\"id\":\"%s\",\"source\":\"/t\",\"type\":\"app.morvet.message.failed\",\"subject\":\"%s\",\"time\":\"%s\",%s}";
        var plain =
                event.formatted(UUID.randomUUID(), subject.key(), Instant.now(), "\"data_base64\":\"" + coded + "\"");
        assertThat(send(KEY, "application/cloudevents+json", plain).statusCode())
                .isEqualTo(202);
        assertThat(stored(subject)).isEqualTo("B-64");
        var both = event.formatted("x", subject.key(), Instant.now(), "\"data\":{},\"data_base64\":\"" + coded + "\"");
        assertThat(send(KEY, "application/cloudevents+json", both).body())
                .contains("data and data_base64; send one of them");
        var broken = event.formatted("x", subject.key(), Instant.now(), "\"data_base64\":\"e30\"");
        assertThat(send(KEY, "application/cloudevents+json", broken.replace("e30", "e3t7"))
                        .body())
                .contains("data is not JSON");
    }

    @Test
    void anEventWithoutATimeIsTakenAsOfItsArrivalSaysSoAndCountsOnce() throws Exception {
        var subject = subject();
        var event = CloudEventBuilder.v1(event(subject).build()).withTime(null).build();
        var first = tree(binary(event));
        assertThat(first.path("accepted").asInt()).isEqualTo(1);
        assertThat(first.path("remarks").path(0).path("words").asString())
                .startsWith("it bears no time; taken as of its arrival, 20");
        var again = tree(binary(event));
        assertThat(again.path("remarks").path(0).path("words"))
                .isEqualTo(first.path("remarks").path(0).path("words"));
        assertThat(stored(subject)).isEqualTo("Ä-1");
        assertThat(tree(binary(event(subject).build())).path("remarks").size()).isZero();
    }

    @Test
    void aBodyMayBePackedButNotWithoutEnd() throws Exception {
        var subject = subject();
        var text = new JsonFormat().serialize(event(subject).build());
        var request = post().header("Content-Type", "application/cloudevents+json; charset=utf-8");
        assertThat(post(request.copy().header("Content-Encoding", "gzip"), packed(text))
                        .statusCode())
                .isEqualTo(202);
        assertThat(stored(subject)).isEqualTo("Ä-1");
        var bomb = post(request.copy().header("Content-Encoding", "gzip"), packed(new byte[33 * 1024 * 1024]));
        assertThat(bomb.statusCode()).isEqualTo(413);
        assertThat(bomb.body()).contains("At most 32 MiB a request unpacked");
        assertThat(post(request.copy().header("Content-Encoding", "gzip"), text).statusCode())
                .isEqualTo(400);
        var cut = java.util.Arrays.copyOf(packed(text), 30);
        assertThat(post(request.copy().header("Content-Encoding", "gzip"), cut).statusCode())
                .isEqualTo(400);
        assertThat(post(request.copy().header("Content-Encoding", "br"), text).statusCode())
                .isEqualTo(415);
        var readings = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/readings"))
                .header("Authorization", "Bearer " + KEY)
                .header("Content-Type", "text/plain")
                .header("Content-Encoding", "gzip");
        assertThat(tree(post(readings, packed("packed_heat 3\n".getBytes(StandardCharsets.UTF_8))))
                        .path("accepted")
                        .asInt())
                .isEqualTo(1);
    }

    @Test
    void theContentTypesParametersAreKept() throws Exception {
        var subject = subject();
        assertThat(structured(event(subject).build(), StandardCharsets.ISO_8859_1)
                        .statusCode())
                .isEqualTo(202);
        assertThat(stored(subject)).isEqualTo("Ä-1");
        assertThat(send(KEY, "application/cloudevents+json; charset=none-such", "{}")
                        .statusCode())
                .isEqualTo(415);
        assertThat(send(KEY, "application/cloudevents+xml", "<event/>").statusCode())
                .isEqualTo(415);
        assertThat(send(KEY, "APPLICATION/CloudEvents-Batch+JSON ; charset=\"UTF-8\"", "[]")
                        .statusCode())
                .isEqualTo(202);
    }

    @Test
    void aPageInOpenMetricsIsHeldToTheLetterAndItsAncestorIsNot() throws Exception {
        var page = "# TYPE heat_strict gauge\nheat_strict 3\n";
        var strict = tree(tell("application/openmetrics-text; version=1.0.0; charset=utf-8", page));
        assertThat(strict.path("accepted").asInt()).isEqualTo(1);
        assertThat(strict.path("rejected").path(0).path("reason").asString()).contains("does not end with # EOF");
        assertThat(tree(tell("text/plain; version=0.0.4", page))
                        .path("rejected")
                        .size())
                .isZero();
        assertThat(tree(tell("application/openmetrics-text", page + "# EOF\n"))
                        .path("rejected")
                        .size())
                .isZero();
    }
}
