package app.morvet.work.mending;

import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Unanswered;
import java.util.Locale;
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
class Middleware implements ConnectionSort {
    /** What came of it. */
    record Answer(SendingStore.ItemState state, String words) {}

    private final Calls calls;
    private final JsonMapper json;

    Middleware(Calls calls, JsonMapper json) {
        this.calls = calls;
        this.json = json;
    }

    Answer sendAgain(Connection connection, SendingStore.Item item, String interfaceKey)
            throws Unanswered, InterruptedException {
        var key = "sending-%d-%d".formatted(item.run(), item.place());
        var answer =
                calls.ask(connection, order("message sent again", connection, key, item.reference(), interfaceKey));
        try {
            return read(answer);
        } catch (IllegalArgumentException unreadable) {
            throw new Unanswered(connection.name() + ": " + unreadable.getMessage(), true);
        }
    }

    private Ask order(String what, Connection connection, String key, String message, String carrier) {
        var body = json.writeValueAsString(Map.of("message", message, "carrier", carrier));
        return new Ask(what, key, connection.get(MiddlewareSetup.PATH), body);
    }

    @Override
    public String sort() {
        return MiddlewareSetup.SORT;
    }

    /** No message there has this id, so nothing is sent. */
    @Override
    public Ask trial(Connection connection) {
        return order("tried", connection, "morvet-tries", "morvet-tries", "morvet-tries");
    }

    @Override
    public String reads(Connection connection, String answer) {
        var read = read(answer);
        return read.state().name().toLowerCase(Locale.ROOT) + (read.words().isEmpty() ? "" : ": " + read.words());
    }

    /** @throws IllegalArgumentException where it does not say what came of it */
    private Answer read(String body) {
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
                default -> throw new IllegalArgumentException("its answer does not say what came of it");
            };
        } catch (JacksonException notJson) {
            throw new IllegalArgumentException("its answer is not JSON", notJson);
        }
    }

    private static String cut(String words) {
        return words.length() <= 500 ? words : words.substring(0, 499) + "…";
    }
}
