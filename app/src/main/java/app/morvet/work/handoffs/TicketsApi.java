package app.morvet.work.handoffs;

import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/**
 * Call-backs of ticket desks: {@code POST /api/v1/tickets/KEY}. A call-back is only a reason to look: what the state is,
 * Morvet reads at the desk itself.
 */
@RestController
class TicketsApi {
    private static final int LONGEST = 64 * 1024;

    private final HandoffStore store;
    private final Desks desks;
    private final Errands errands;
    private final Times times;

    TicketsApi(HandoffStore store, Desks desks, Errands errands, Times times) {
        this.store = store;
        this.desks = desks;
        this.errands = errands;
        this.times = times;
    }

    @PostMapping("/api/v1/tickets/{key}")
    ResponseEntity<?> changed(
            @PathVariable String key,
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            HttpServletRequest request)
            throws IOException {
        var desk = desks.byKey(key)
                .filter(found -> !found.secret().isEmpty() && same("Bearer " + found.secret(), authorization));
        if (desk.isEmpty()) return refuse(HttpStatus.UNAUTHORIZED, "Unknown desk or wrong secret.");
        // Nothing is read of who does not know the secret, and no more than this of who does.
        var bytes = request.getInputStream().readNBytes(LONGEST + 1);
        if (bytes.length > LONGEST) return refuse(HttpStatus.CONTENT_TOO_LARGE, "At most 64 KiB.");
        var body = new String(bytes, StandardCharsets.UTF_8);
        try {
            var ticket = desk.get().reading().number(body);
            if (ticket.isEmpty())
                return refuse(
                        HttpStatus.BAD_REQUEST,
                        "No ticket number at " + desk.get().numberPath() + ".");
            store.byTicket(desk.get().id(), ticket.get())
                    .filter(found -> found.state().followed())
                    .ifPresent(found -> errands.at(
                            times.now(), HandoffDesk.FOLLOWING, found.id().toString()));
            return ResponseEntity.accepted().build();
        } catch (TicketReading.Unreadable unreadable) {
            return refuse(HttpStatus.BAD_REQUEST, "Not JSON that can be read.");
        }
    }

    private static boolean same(String wanted, String given) {
        return MessageDigest.isEqual(wanted.getBytes(StandardCharsets.UTF_8), given.getBytes(StandardCharsets.UTF_8));
    }

    private static ResponseEntity<ProblemDetail> refuse(HttpStatus status, String detail) {
        return ResponseEntity.status(status).body(ProblemDetail.forStatusAndDetail(status, detail));
    }
}
