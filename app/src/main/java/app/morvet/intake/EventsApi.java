package app.morvet.intake;

import app.morvet.access.IntakeKeys;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.TransactionException;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Where feeds send events: {@code POST /api/v1/events}, CloudEvents 1.0 in structured mode, single or batch. */
@RestController
class EventsApi {
    static final int LARGEST_BODY = 8 * 1024 * 1024;
    static final int LARGEST_BATCH = 5000;
    private static final int DEEPEST = 64;
    private static final Logger log = LoggerFactory.getLogger(EventsApi.class);

    private final IntakeKeys keys;
    private final Intake intake;
    private final RateLimit rate;
    private final JsonMapper json = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .maxStringLength(LARGEST_BODY)
                            .build())
                    .build())
            .build();

    EventsApi(IntakeKeys keys, Intake intake, RateLimit rate) {
        this.keys = keys;
        this.intake = intake;
        this.rate = rate;
    }

    @PostMapping("/api/v1/events")
    ResponseEntity<?> events(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @RequestHeader(name = HttpHeaders.CONTENT_TYPE, defaultValue = "") String type,
            HttpServletRequest request)
            throws IOException {
        var feed = authorization.startsWith("Bearer ")
                ? keys.feedOf(authorization.substring(7).strip())
                : java.util.Optional.<Long>empty();
        if (feed.isEmpty()) {
            return ResponseEntity.status(HttpStatus.UNAUTHORIZED)
                    .header(HttpHeaders.WWW_AUTHENTICATE, "Bearer realm=\"intake\"")
                    .body(problem(
                            HttpStatus.UNAUTHORIZED,
                            "Unknown intake key",
                            "Send a valid key as \"Authorization: Bearer …\"; an admin makes one under Setup."));
        }
        if (!type.matches("(?i)application/(cloudevents(-batch)?\\+)?json\\b.*")) {
            return refuse(
                    HttpStatus.UNSUPPORTED_MEDIA_TYPE,
                    "Not CloudEvents in JSON",
                    "Send application/cloudevents+json or application/cloudevents-batch+json, was \"" + type + "\".");
        }
        if (!rate.allows(feed.get())) {
            return ResponseEntity.status(HttpStatus.TOO_MANY_REQUESTS)
                    .header(HttpHeaders.RETRY_AFTER, "1")
                    .body(problem(
                            HttpStatus.TOO_MANY_REQUESTS,
                            "Too many requests",
                            "At most %d requests a second for each feed; send larger batches."
                                    .formatted(RateLimit.PER_SECOND)));
        }
        if (request.getContentLengthLong() > LARGEST_BODY) return tooLarge();
        var body = request.getInputStream().readNBytes(LARGEST_BODY + 1);
        if (body.length > LARGEST_BODY) return tooLarge();

        JsonNode tree;
        try {
            tree = json.readTree(body);
        } catch (JacksonException unreadable) {
            var place = unreadable.getLocation();
            return refuse(
                    HttpStatus.BAD_REQUEST,
                    "Unreadable body",
                    "Not JSON%s: %s"
                            .formatted(
                                    place == null
                                            ? ""
                                            : " at line %d, column %d"
                                                    .formatted(place.getLineNr(), place.getColumnNr()),
                                    unreadable.getOriginalMessage()));
        }
        var batch = batch(tree);
        if (batch == null) {
            return refuse(
                    HttpStatus.BAD_REQUEST, "Unreadable body", "Send one event as a JSON object, or a list of events.");
        }
        if (batch.size() > LARGEST_BATCH) {
            return refuse(
                    HttpStatus.CONTENT_TOO_LARGE,
                    "Batch too large",
                    "At most %,d events in a batch, were %,d.".formatted(LARGEST_BATCH, batch.size()));
        }
        try {
            return ResponseEntity.accepted().body(intake.take(feed.get(), batch));
        } catch (DataAccessException | TransactionException notStored) {
            log.error("a batch of {} events could not be stored", batch.size(), notStored);
            return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                    .header(HttpHeaders.RETRY_AFTER, "5")
                    .body(problem(
                            HttpStatus.SERVICE_UNAVAILABLE,
                            "Not stored",
                            "The store did not take the batch; nothing of it was kept. Send it again."));
        }
    }

    private static @Nullable List<JsonNode> batch(@Nullable JsonNode tree) {
        if (tree == null || !tree.isContainer()) return null;
        if (tree.isObject()) return List.of(tree);
        var batch = new ArrayList<JsonNode>(tree.size());
        tree.forEach(batch::add);
        return batch;
    }

    private static ResponseEntity<ProblemDetail> tooLarge() {
        return refuse(
                HttpStatus.CONTENT_TOO_LARGE,
                "Body too large",
                "At most %d MiB a request; split the batch.".formatted(LARGEST_BODY / 1024 / 1024));
    }

    private static ResponseEntity<ProblemDetail> refuse(HttpStatus status, String title, String detail) {
        return ResponseEntity.status(status).body(problem(status, title, detail));
    }

    private static ProblemDetail problem(HttpStatus status, String title, String detail) {
        var problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setTitle(title);
        return problem;
    }
}
