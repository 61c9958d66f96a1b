package app.morvet.standins;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** The way to Morvet: CloudEvents 1.0 in batches over HTTP. */
@Component
public class ToMorvet {
    private static final int BATCH = 1000;

    /** Morvet did not take a batch. */
    public static final class NotTaken extends Exception {
        private static final long serialVersionUID = 1;

        NotTaken(String message) {
            super(message);
        }
    }

    private final StandInSettings settings;
    private final JsonMapper json;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(Duration.ofSeconds(3))
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    public ToMorvet(StandInSettings settings, JsonMapper json) {
        this.settings = settings;
        this.json = json;
    }

    /** One event. */
    public static Map<String, Object> event(
            String source, String id, String type, String subject, Instant at, Map<String, Object> data) {
        var event = new LinkedHashMap<String, Object>();
        event.put("specversion", "1.0");
        event.put("id", id);
        event.put("source", source);
        event.put("type", type);
        event.put("subject", subject);
        event.put("time", at.toString());
        event.put("datacontenttype", "application/json");
        event.put("data", data);
        return event;
    }

    /** @param key the intake key of who tells */
    public void tell(List<Map<String, Object>> events, String key) throws NotTaken, InterruptedException {
        for (int from = 0; from < events.size(); from += BATCH)
            post(events.subList(from, Math.min(from + BATCH, events.size())), key);
    }

    private void post(List<Map<String, Object>> events, String key) throws NotTaken, InterruptedException {
        var request = HttpRequest.newBuilder(URI.create(settings.morvet() + "/api/v1/events"))
                .timeout(Duration.ofSeconds(30))
                .header("Authorization", "Bearer " + key)
                .header("Content-Type", "application/cloudevents-batch+json")
                .POST(HttpRequest.BodyPublishers.ofByteArray(json.writeValueAsBytes(events)))
                .build();
        try {
            var answer = client.send(request, HttpResponse.BodyHandlers.ofString());
            if (answer.statusCode() != 202)
                throw new NotTaken("Morvet answered " + answer.statusCode() + ": " + answer.body());
        } catch (IOException noAnswer) {
            throw new NotTaken("Morvet gives no answer: " + noAnswer.getMessage());
        }
    }
}
