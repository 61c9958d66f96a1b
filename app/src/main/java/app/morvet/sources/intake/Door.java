package app.morvet.sources.intake;

import app.morvet.ground.access.IntakeKeys;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import tools.jackson.core.JacksonException;

/** What every request of a feed has to pass: its key, its rate, the size of its body. What is refused is told why. */
@Component
public class Door {
    private static final Logger log = LoggerFactory.getLogger(Door.class);

    /** What is done with a body that came through. */
    public interface Inside {
        ResponseEntity<?> take(long feed, byte[] body);
    }

    private final IntakeKeys keys;
    private final RateLimit rate;

    Door(IntakeKeys keys, RateLimit rate) {
        this.keys = keys;
        this.rate = rate;
    }

    ResponseEntity<?> enter(String authorization, HttpServletRequest request, Inside inside) throws IOException {
        var feed = authorization.startsWith("Bearer ")
                ? keys.feedOf(authorization.substring(7).strip())
                : Optional.<Long>empty();
        if (feed.isEmpty()) {
            return unknown("an admin makes one under Setup");
        }
        return pass(feed.get(), request, inside);
    }

    /** @param whence where a key comes from */
    public static ResponseEntity<ProblemDetail> unknown(String whence) {
        return ResponseEntity.status(HttpStatus.UNAUTHORIZED)
                .header(HttpHeaders.WWW_AUTHENTICATE, "Bearer realm=\"intake\"")
                .body(problem(
                        HttpStatus.UNAUTHORIZED,
                        "Unknown intake key",
                        "Send a valid key as \"Authorization: Bearer …\"; %s.".formatted(whence)));
    }

    /** What a feed that is known has to pass. */
    public ResponseEntity<?> pass(long feed, HttpServletRequest request, Inside inside) throws IOException {
        if (!rate.allows(feed)) {
            return ResponseEntity.status(HttpStatus.TOO_MANY_REQUESTS)
                    .header(HttpHeaders.RETRY_AFTER, "1")
                    .body(problem(
                            HttpStatus.TOO_MANY_REQUESTS,
                            "Too many requests",
                            "At most %d requests a second for each feed on each node; send larger batches."
                                    .formatted(RateLimit.PER_SECOND)));
        }
        try {
            return inside.take(feed, Body.of(request));
        } catch (Refusal refusal) {
            return refuse(refusal.status(), refusal.title(), refusal.detail());
        } catch (DataAccessException | TransactionException notStored) {
            log.error("what a feed sent could not be stored", notStored);
            return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                    .header(HttpHeaders.RETRY_AFTER, "5")
                    .body(problem(
                            HttpStatus.SERVICE_UNAVAILABLE,
                            "Not stored",
                            "The store did not take the batch; nothing of it was kept. Send it again."));
        }
    }

    public static ResponseEntity<ProblemDetail> unreadable(JacksonException unreadable) {
        var place = unreadable.getLocation();
        return refuse(
                HttpStatus.BAD_REQUEST,
                "Unreadable body",
                "Not JSON%s: %s"
                        .formatted(
                                place == null
                                        ? ""
                                        : " at line %d, column %d".formatted(place.getLineNr(), place.getColumnNr()),
                                unreadable.getOriginalMessage()));
    }

    public static ResponseEntity<ProblemDetail> refuse(HttpStatus status, String title, String detail) {
        return ResponseEntity.status(status).body(problem(status, title, detail));
    }

    private static ProblemDetail problem(HttpStatus status, String title, String detail) {
        var problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setTitle(title);
        return problem;
    }
}
