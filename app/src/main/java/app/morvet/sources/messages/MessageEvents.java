package app.morvet.sources.messages;

import static app.morvet.sources.intake.EventFields.bytes;
import static app.morvet.sources.intake.EventFields.list;
import static app.morvet.sources.intake.EventFields.name;
import static app.morvet.sources.intake.EventFields.optional;
import static app.morvet.sources.intake.EventFields.time;

import app.morvet.core.messages.Delays;
import app.morvet.core.messages.FailedMessage;
import app.morvet.core.messages.InterfaceState;
import app.morvet.core.messages.PayloadText;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.intake.EventKind;
import app.morvet.sources.intake.EventRefused;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * Events about messages: {@value #FAILED}, one failed message; {@value #DELIVERED}, how many were delivered in a span; and
 * {@value #STATE}, how an interface stands at its middleware. The {@code subject} is the key of the interface.
 */
@Component
@Order(1)
class MessageEvents implements EventKind<MessageEvents.Said> {
    private static final String FAILED = "app.morvet.message.failed";
    private static final String DELIVERED = "app.morvet.messages.delivered";
    private static final String STATE = "app.morvet.interface.state";

    private static final int MOST_DELAYS = 100_000;
    private static final Duration LONGEST_SPAN = Duration.ofDays(1);

    /** What an event says, before its interface is looked up. */
    sealed interface Said {}

    record Failed(FailedMessage message) implements Said {}

    /** @param to where the span ends that begins at {@code from} */
    record Carried(Instant from, Instant to, int delivered, Delays delays) implements Said {}

    record State(InterfaceState state) implements Said {}

    private final MessageIntake intake;

    MessageEvents(MessageIntake intake) {
        this.intake = intake;
    }

    @Override
    public List<String> types() {
        return List.of(FAILED, DELIVERED, STATE);
    }

    @Override
    public Optional<String> about() {
        return Optional.of(Estate.INTERFACE);
    }

    @Override
    public Said read(String type, JsonNode data, Instant at) throws EventRefused {
        return switch (type) {
            case FAILED -> new Failed(failed(data, at));
            case DELIVERED -> carried(data, at);
            default -> new State(state(data, at));
        };
    }

    @Override
    public Runnable arriving(long feed, List<Arrived<Said>> some) {
        return intake.arriving(arrivedOf(feed, some));
    }

    private static MessagesArrived arrivedOf(long feed, List<Arrived<Said>> some) {
        var failed = new ArrayList<MessagesArrived.Failed>();
        var carried = new ArrayList<MessagesArrived.Carried>();
        var states = new ArrayList<MessagesArrived.Stands>();
        for (var one : some)
            switch (one.said()) {
                case Failed(var message) ->
                    failed.add(new MessagesArrived.Failed(one.id(), one.component(), one.subject(), message));
                case Carried(var from, var to, var delivered, var delays) ->
                    carried.add(new MessagesArrived.Carried(one.id(), one.component(), from, to, delivered, delays));
                case State(var state) -> states.add(new MessagesArrived.Stands(one.id(), one.component(), state));
            }
        return new MessagesArrived(feed, failed, carried, states);
    }

    private static InterfaceState state(JsonNode data, Instant at) throws EventRefused {
        return new InterfaceState(
                at,
                InterfaceState.State.of(optional(data, "state")),
                optional(data, "reason"),
                optional(data, "version"),
                optional(data, "node"));
    }

    private static FailedMessage failed(JsonNode data, Instant at) throws EventRefused {
        var type = optional(data, "payloadType");
        var payload = optional(data, "payload");
        byte[] binary = null;
        var coded = optional(data, "payloadBase64");
        if (!coded.isEmpty()) {
            if (!payload.isEmpty()) throw new EventRefused("data has payload and payloadBase64; send one of them");
            var bytes = bytes(coded, "data.payloadBase64");
            var text = PayloadText.of(type, bytes);
            payload = text.map(PlainText::of).orElse("");
            if (text.isEmpty()) binary = bytes;
        }
        return new FailedMessage(
                at,
                optional(data, "message"),
                optional(data, "businessKey"),
                optional(data, "step"),
                optional(data, "error"),
                attributes(data.get("attributes")),
                type,
                payload,
                binary,
                steps(data.get("steps")),
                attachments(data.get("attachments")));
    }

    private static List<FailedMessage.Step> steps(@Nullable JsonNode node) throws EventRefused {
        var steps = new ArrayList<FailedMessage.Step>();
        for (var one : list(node, "steps"))
            steps.add(new FailedMessage.Step(
                    name(one, "name", 200),
                    time(one, "at"),
                    optional(one, "words"),
                    one.path("failed").asBoolean(false)));
        return steps;
    }

    private static List<FailedMessage.Attachment> attachments(@Nullable JsonNode node) throws EventRefused {
        var attachments = new ArrayList<FailedMessage.Attachment>();
        for (var one : list(node, "attachments")) {
            var coded = optional(one, "base64");
            var content = coded.isEmpty()
                    ? optional(one, "text").getBytes(StandardCharsets.UTF_8)
                    : bytes(coded, "data.attachments.base64");
            attachments.add(new FailedMessage.Attachment(name(one, "name", 200), optional(one, "type"), content));
        }
        return attachments;
    }

    private static Carried carried(JsonNode data, Instant to) throws EventRefused {
        var from = time(data, "from");
        if (!from.isBefore(to) || Duration.between(from, to).compareTo(LONGEST_SPAN) > 0) {
            throw new EventRefused("data.from must lie before time, by at most 24 h");
        }
        var count = data.get("delivered");
        if (count == null || !count.isInt() || count.intValue() < 0) {
            throw new EventRefused("data.delivered must be a whole number, 0 or more");
        }
        return new Carried(from, to, count.intValue(), delays(data.get("delays")));
    }

    private static Delays delays(@Nullable JsonNode node) throws EventRefused {
        if (node == null || node.isNull()) return Delays.none();
        if (!node.isArray() || node.size() > MOST_DELAYS)
            throw new EventRefused("data.delays must be a list of at most 100,000 numbers, in seconds");
        var seconds = new double[node.size()];
        for (int i = 0; i < seconds.length; i++) {
            seconds[i] = node.get(i).isNumber() ? node.get(i).doubleValue(Double.NaN) : Double.NaN;
            if (!Double.isFinite(seconds[i]))
                throw new EventRefused("data.delays must be a list of numbers, in seconds");
        }
        return Delays.of(seconds);
    }

    private static Map<String, String> attributes(@Nullable JsonNode node) throws EventRefused {
        var attributes = new LinkedHashMap<String, String>();
        if (node == null || node.isNull()) return attributes;
        if (!node.isObject()) throw new EventRefused("data.attributes must be an object of texts");
        for (var entry : node.properties()) {
            if (entry.getValue().isContainer())
                throw new EventRefused("data.attributes." + entry.getKey() + " must be a text or a number");
            attributes.put(
                    PlainText.of(entry.getKey()), PlainText.of(entry.getValue().asString()));
        }
        return attributes;
    }
}
