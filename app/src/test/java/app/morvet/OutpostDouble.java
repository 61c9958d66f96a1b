package app.morvet;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.UUID;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Speaks to Morvet as an outpost does, word for word. */
public final class OutpostDouble {
    private static final JsonMapper JSON = JsonMapper.shared();

    private final HttpClient http = HttpClient.newHttpClient();
    private final String address;
    private final String name;
    private final String key;
    private ObjectNode word = fresh();
    private String spool = UUID.randomUUID().toString();
    private String brief = "";
    private int number;
    private String at = "";

    public OutpostDouble(int port, String name, String key) {
        this.address = "http://127.0.0.1:" + port + "/api/v1/outposts";
        this.name = name;
        this.key = key;
    }

    private static ObjectNode fresh() {
        var word = JSON.createObjectNode();
        word.putArray("items");
        return word;
    }

    /** Its clock stands at a time. */
    public OutpostDouble at(String time) {
        at = time;
        return this;
    }

    /** It begins a new life, with another spool. */
    public void forgets() {
        spool = UUID.randomUUID().toString();
        number = 0;
    }

    public OutpostDouble says(String field, JsonNode value) {
        word.set(field, value);
        return this;
    }

    /** Puts something down to be told; text that is JSON. */
    public OutpostDouble saw(String item) {
        if (JSON.readTree(item) instanceof ObjectNode node)
            word.withArray("items").add(node.put("n", ++number));
        return this;
    }

    /** An action that its file names. */
    public OutpostDouble may(String action) {
        word.withObject("may").withArray("actions").add(JSON.readTree(action));
        return this;
    }

    private HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(address + path))
                .header("Authorization", "Bearer " + key)
                .header("X-Outpost", name);
    }

    public HttpResponse<String> send() throws IOException, InterruptedException {
        var whole = word.put("spool", spool)
                .put("at", at.isEmpty() ? Instant.now().toString() : at)
                .put("brief", brief)
                .put("program", "1");
        return http.send(
                request("/word")
                        .POST(HttpRequest.BodyPublishers.ofString(whole.toString()))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    /** Tells what was put down; gives back what is answered. What it may do it says again each time. */
    public JsonNode tells() throws IOException, InterruptedException {
        var answer = send();
        if (answer.statusCode() != 200) throw new IOException(answer.statusCode() + " " + answer.body());
        word.putArray("items");
        return JSON.readTree(answer.body());
    }

    public HttpResponse<String> fetches(String tag) throws IOException, InterruptedException {
        var request = request("/brief");
        if (!tag.isEmpty()) request.header("If-None-Match", tag);
        var answer = http.send(request.GET().build(), HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() == 200)
            brief = JSON.readTree(answer.body()).path("version").asString();
        return answer;
    }
}
