package app.morvet.work.mending;

import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.SecretHeaders;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.util.Map;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Asks a middleware to send a message again. It is posted {@code {"message": …, "carrier": …}}, the message's own id there and
 * the interface's key, and answers {@code {"outcome": "delivered" | "failed" | "refused", "step": …, "error": …}}. Each order
 * bears an {@code Idempotency-Key}, so one that got through without our hearing of it is not carried out twice.
 */
@Component
class Middleware {
    /** What came of it. */
    record Answer(SendingStore.ItemState state, String words) {}

    /** There was no answer that says what came of it. */
    static final class Failed extends Exception {
        private static final long serialVersionUID = 1;
        private final boolean lasting;

        Failed(String message, boolean lasting) {
            super(message);
            this.lasting = lasting;
        }

        /** Whether trying again cannot help until somebody changes something. */
        boolean lasting() {
            return lasting;
        }
    }

    private final Outgoing outgoing;
    private final JsonMapper json;

    Middleware(Outgoing outgoing, JsonMapper json) {
        this.outgoing = outgoing;
        this.json = json;
    }

    Answer sendAgain(SendingStore.Connection connection, SendingStore.Item item, String interfaceKey)
            throws Failed, InterruptedException {
        var request = HttpRequest.newBuilder()
                .header("Content-Type", "application/json")
                .header("Accept", "application/json")
                .header("Idempotency-Key", "sending-%d-%d".formatted(item.run(), item.place()))
                .POST(HttpRequest.BodyPublishers.ofString(
                        json.writeValueAsString(Map.of("message", item.reference(), "carrier", interfaceKey))));
        SecretHeaders.into(request, connection.headers());
        try {
            var answer = outgoing.call(request, connection.address());
            int status = answer.status();
            if (status >= 200 && status < 300) return read(answer.body());
            boolean lasting = status >= 400 && status < 500 && status != 408 && status != 425 && status != 429;
            throw new Failed("The middleware answered " + status + ".", lasting);
        } catch (IOException noAnswer) {
            throw new Failed("The middleware gives no answer.", false);
        } catch (IllegalArgumentException wrongSettings) {
            throw new Failed(String.valueOf(wrongSettings.getMessage()), true);
        }
    }

    private Answer read(String body) throws Failed {
        try {
            var tree = json.readTree(body);
            var error = tree.path("error").asString("");
            var step = tree.path("step").asString("");
            var words = (step.isEmpty() ? "" : "at step " + step + ": ")
                    + error.lines().findFirst().orElse("");
            return switch (tree.path("outcome").asString("")) {
                case "delivered" -> new Answer(SendingStore.ItemState.DELIVERED, "");
                case "failed" -> new Answer(SendingStore.ItemState.FAILED, cut(words));
                case "refused" -> new Answer(SendingStore.ItemState.REFUSED, cut(words));
                default -> throw new Failed("The middleware's answer does not say what came of it.", true);
            };
        } catch (JacksonException notJson) {
            throw new Failed("The middleware's answer is not JSON.", true);
        }
    }

    private static String cut(String words) {
        return words.length() <= 500 ? words : words.substring(0, 499) + "…";
    }
}
