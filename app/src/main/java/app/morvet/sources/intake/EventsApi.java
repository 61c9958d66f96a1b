package app.morvet.sources.intake;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Where feeds send events: {@code POST /api/v1/events}, CloudEvents 1.0 over HTTP: structured, batched or binary. */
@RestController
class EventsApi {
    static final int LARGEST_BATCH = 5000;
    private static final int DEEPEST = 64;
    private static final long MOST_TOKENS = 3_000_000;
    /** Limits of what is read as JSON from outside. */
    static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .maxStringLength(Body.LARGEST)
                            .maxTokenCount(MOST_TOKENS)
                            .build())
                    .build())
            .build();

    private final Door door;
    private final Intake intake;

    EventsApi(Door door, Intake intake) {
        this.door = door;
        this.intake = intake;
    }

    @PostMapping("/api/v1/events")
    ResponseEntity<?> events(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @RequestHeader(name = HttpHeaders.CONTENT_TYPE, defaultValue = "") String type,
            HttpServletRequest request)
            throws IOException {
        return door.enter(authorization, request, (feed, body) -> take(feed, type, request, body));
    }

    private ResponseEntity<?> take(long feed, String header, HttpServletRequest request, byte[] body) {
        var type = ContentType.of(header);
        boolean structured = type.media().startsWith("application/cloudevents");
        if (!structured && BinaryEvent.isOne(request))
            return ResponseEntity.accepted().body(intake.take(feed, List.of(BinaryEvent.structured(request, body))));
        if (!List.of("application/cloudevents+json", "application/cloudevents-batch+json", "application/json")
                .contains(type.media())) {
            return Door.refuse(
                    HttpStatus.UNSUPPORTED_MEDIA_TYPE,
                    "Not CloudEvents in JSON",
                    "Send application/cloudevents+json or application/cloudevents-batch+json, or the event's attributes as headers that begin with ce-; was \""
                            + header + "\".");
        }
        JsonNode tree;
        try {
            tree = type.charset().equals(StandardCharsets.UTF_8) ? JSON.readTree(body) : JSON.readTree(type.text(body));
        } catch (JacksonException unreadable) {
            return Door.unreadable(unreadable);
        }
        var batch = batch(tree);
        if (batch == null) {
            return Door.refuse(
                    HttpStatus.BAD_REQUEST, "Unreadable body", "Send one event as a JSON object, or a list of events.");
        }
        if (batch.size() > LARGEST_BATCH) {
            return Door.refuse(
                    HttpStatus.CONTENT_TOO_LARGE,
                    "Batch too large",
                    "At most %,d events in a batch, were %,d.".formatted(LARGEST_BATCH, batch.size()));
        }
        return ResponseEntity.accepted().body(intake.take(feed, batch));
    }

    private static @Nullable List<JsonNode> batch(@Nullable JsonNode tree) {
        if (tree == null || !tree.isContainer()) return null;
        if (tree.isObject()) return List.of(tree);
        var batch = new ArrayList<JsonNode>(tree.size());
        tree.forEach(batch::add);
        return batch;
    }
}
