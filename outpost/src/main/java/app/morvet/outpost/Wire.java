package app.morvet.outpost;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;
import java.util.zip.GZIPOutputStream;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The connection to Morvet, which is always opened from here. */
final class Wire {
    static final JsonMapper JSON = JsonMapper.shared();
    private static final Duration PATIENCE = Duration.ofSeconds(20);

    private final OwnFile own;
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(5)).build();
    private String tag = "";

    Wire(OwnFile own) {
        this.own = own;
    }

    private HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(own.morvet().resolve(own.morvet().getPath() + path))
                .timeout(PATIENCE)
                .header("Authorization", "Bearer " + own.key())
                .header("X-Outpost", own.name());
    }

    /** Tells something, and gives back what is answered. */
    JsonNode tell(JsonNode word) throws IOException, InterruptedException {
        var packed = new ByteArrayOutputStream();
        try (var gzip = new GZIPOutputStream(packed)) {
            gzip.write(word.toString().getBytes(StandardCharsets.UTF_8));
        }
        var answer = client.send(
                request("/api/v1/outposts/word")
                        .header("Content-Type", "application/json")
                        .header("Content-Encoding", "gzip")
                        .POST(HttpRequest.BodyPublishers.ofByteArray(packed.toByteArray()))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        return read(answer, 200);
    }

    /** The brief, where it is another than before. */
    Optional<JsonNode> brief() throws IOException, InterruptedException {
        var request = request("/api/v1/outposts/brief");
        if (!tag.isEmpty()) request.header("If-None-Match", tag);
        var answer = client.send(request.GET().build(), HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() == 304) return Optional.empty();
        var brief = read(answer, 200);
        tag = answer.headers().firstValue("ETag").orElse("");
        return Optional.of(brief);
    }

    private static JsonNode read(HttpResponse<String> answer, int wanted) throws IOException {
        if (answer.statusCode() != wanted)
            throw new IOException("Morvet answers " + answer.statusCode() + ": " + brief(answer.body()));
        try {
            return JSON.readTree(answer.body());
        } catch (JacksonException unreadable) {
            throw new IOException("what answers is not Morvet", unreadable);
        }
    }

    private static String brief(String body) {
        return body.length() > 200 ? body.substring(0, 200) + "…" : body;
    }
}
