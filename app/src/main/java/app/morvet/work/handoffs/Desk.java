package app.morvet.work.handoffs;

import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.base.Outgoing;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Talks to a ticket desk as its connection's settings say. */
@Component
class Desk {
    /** It did not work. */
    static final class Failed extends Exception {
        private static final long serialVersionUID = 1;
        private final boolean lasting;

        /** @param lasting whether trying again cannot help until somebody changes something */
        Failed(String message, boolean lasting) {
            super(message);
            this.lasting = lasting;
        }

        boolean lasting() {
            return lasting;
        }
    }

    private final Outgoing outgoing;

    Desk(Outgoing outgoing) {
        this.outgoing = outgoing;
    }

    /** Posts a ticket. The same key twice makes one ticket, and answers the same. */
    TicketReading.Ticket create(DeskConnection desk, UUID key, String body) throws Failed, InterruptedException {
        var request = HttpRequest.newBuilder()
                .header("Content-Type", "application/json")
                .header("Idempotency-Key", key.toString())
                .POST(HttpRequest.BodyPublishers.ofString(body));
        return ask(desk, request, desk.address(desk.createPath(), ""));
    }

    TicketReading.Ticket look(DeskConnection desk, String ticket) throws Failed, InterruptedException {
        return ask(desk, HttpRequest.newBuilder().GET(), desk.address(desk.readPath(), ticket));
    }

    private TicketReading.Ticket ask(DeskConnection desk, HttpRequest.Builder request, String address)
            throws Failed, InterruptedException {
        try {
            request.header("Accept", "application/json");
            desk.headers().lines().filter(line -> line.contains(":")).forEach(line -> {
                var parts = line.split(":", 2);
                request.header(parts[0].strip(), parts[1].strip());
            });
            var answer = outgoing.call(request, address);
            int status = answer.status();
            if (status >= 200 && status < 300) return desk.reading().read(answer.body());
            boolean lasting = status >= 400 && status < 500 && status != 408 && status != 425 && status != 429;
            throw new Failed(desk.name() + " answered " + status + excerpt(answer.body()), lasting);
        } catch (IOException noAnswer) {
            var why = noAnswer.getMessage();
            throw new Failed(
                    desk.name() + " gives no answer" + (why == null || why.isBlank() ? "" : " (" + why + ")"), false);
        } catch (TicketReading.Unreadable unreadable) {
            throw new Failed(String.valueOf(unreadable.getMessage()), true);
        } catch (IllegalArgumentException wrongSettings) {
            throw new Failed(String.valueOf(wrongSettings.getMessage()), true);
        }
    }

    private static String excerpt(String body) {
        var text = body.strip().replaceAll("\\s+", " ");
        return text.isEmpty() ? "" : ": " + (text.length() > 200 ? text.substring(0, 200) + "…" : text);
    }
}
