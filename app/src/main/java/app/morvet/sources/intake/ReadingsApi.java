package app.morvet.sources.intake;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * Where feeds send readings: {@code POST /api/v1/readings}, as a page in the text format of OpenMetrics or as JSON
 * {@code {"readings": [{"component": …, "measure": …, "value": …, "at": …, "unit": …, "sort": …, "labels": {…}}]}}.
 */
@RestController
class ReadingsApi {
    private final Door door;
    private final ReadingsIntake intake;

    ReadingsApi(Door door, ReadingsIntake intake) {
        this.door = door;
        this.intake = intake;
    }

    @PostMapping("/api/v1/readings")
    ResponseEntity<?> readings(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @RequestHeader(name = HttpHeaders.CONTENT_TYPE, defaultValue = "") String type,
            HttpServletRequest request)
            throws IOException {
        return door.enter(authorization, request, (feed, body) -> take(feed, ContentType.of(type), body));
    }

    private ResponseEntity<?> take(long feed, ContentType type, byte[] body) {
        if (ReadingsIntake.isPage(type))
            return ResponseEntity.accepted().body(intake.takePage(feed, type, type.text(body)));
        if (!type.media().equals("application/json")) {
            return Door.refuse(
                    HttpStatus.UNSUPPORTED_MEDIA_TYPE,
                    "Neither OpenMetrics nor JSON",
                    "Send application/openmetrics-text, its plain ancestor as text/plain, or application/json; was \"%s\"."
                            .formatted(type.media()));
        }
        JsonNode tree;
        try {
            tree = EventsApi.JSON.readTree(type.text(body));
        } catch (JacksonException unreadable) {
            return Door.unreadable(unreadable);
        }
        var list = tree == null ? null : tree.isArray() ? tree : tree.get("readings");
        if (list == null || !list.isArray()) {
            return Door.refuse(
                    HttpStatus.BAD_REQUEST,
                    "Unreadable body",
                    "Send {\"readings\": [{\"component\": …, \"measure\": …, \"value\": …, \"at\": …}]}.");
        }
        return ResponseEntity.accepted().body(intake.takeJson(feed, list));
    }
}
