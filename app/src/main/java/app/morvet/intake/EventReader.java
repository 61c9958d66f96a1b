package app.morvet.intake;

import app.morvet.core.messages.Delays;
import app.morvet.core.messages.EventTimes;
import app.morvet.core.messages.FailedMessage;
import app.morvet.core.messages.InterfaceState;
import app.morvet.core.messages.PayloadText;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * Reads one CloudEvents 1.0 event. Says of a bad one which attribute is wrong and how it should be.
 *
 * <p>About messages there are {@value #FAILED}, one failed message; {@value #DELIVERED}, how many were delivered in a span;
 * and {@value #STATE}, how an interface stands at its middleware; the {@code subject} is the key of the interface. About runs
 * see {@link RunEvents}; there it is the key of the job.
 */
final class EventReader {
    static final String FAILED = "app.morvet.message.failed";
    static final String DELIVERED = "app.morvet.messages.delivered";
    static final String STATE = "app.morvet.interface.state";

    static final String RUN_STARTED = "app.morvet.run.started";
    static final String RUN_PROGRESS = "app.morvet.run.progress";
    static final String RUN_FINISHED = "app.morvet.run.finished";
    static final String RUN_CANCELLED = "app.morvet.run.cancelled";
    static final String FILE_ARRIVED = "app.morvet.file.arrived";

    private static final int LONGEST_ID = 200;
    private static final int LONGEST_SOURCE = 400;
    private static final int MOST_DELAYS = 100_000;
    private static final Duration LONGEST_SPAN = Duration.ofDays(1);

    /** What an event says, before its interface is looked up. */
    sealed interface Told {
        String id();

        String subject();
    }

    record ToldFailed(String id, String subject, FailedMessage message) implements Told {}

    record ToldCarried(String id, String subject, Instant from, Instant to, int delivered, Delays delays)
            implements Told {}

    record ToldState(String id, String subject, InterfaceState state) implements Told {}

    record ToldRun(String id, String subject, RunsArrived.Said said) implements Told {}

    /** The {@code subject} is the name of the file. */
    record ToldFile(String id, String subject, Instant at) implements Told {}

    /** Why an event is refused, in words for its sender. */
    static final class Refused extends Exception {
        private static final long serialVersionUID = 1;

        Refused(String reason) {
            super(reason);
        }
    }

    private EventReader() {}

    /** Whether an event leaves its time out, as CloudEvents allows. */
    static boolean isTimeless(JsonNode event) {
        return event.isObject()
                && (event.get("time") == null || event.get("time").isNull());
    }

    /** What tells an event from all others: its source and its id. */
    static String identity(JsonNode event) {
        return text(event, "source") + " " + text(event, "id");
    }

    /** @param arrivals when events first came that bear no time, by their {@link #identity} */
    static Told read(JsonNode event, Map<String, Instant> arrivals, Instant now) throws Refused {
        if (!event.isObject()) throw new Refused("an event must be a JSON object");
        var version = text(event, "specversion");
        if (!"1.0".equals(version)) throw new Refused("specversion must be \"1.0\", was \"" + version + "\"");
        var id = name(event, "id", LONGEST_ID);
        name(event, "source", LONGEST_SOURCE);
        var subject = name(event, "subject", 200);
        var at = isTimeless(event) ? arrivals.getOrDefault(identity(event), now) : time(event, "time");
        var refusal = EventTimes.refusal(at, now);
        if (refusal.isPresent()) throw new Refused(refusal.get());
        var data = data(event);
        try {
            return switch (text(event, "type")) {
                case FAILED -> new ToldFailed(id, subject, failed(data, at));
                case DELIVERED -> carried(id, subject, data, at);
                case STATE ->
                    new ToldState(
                            id,
                            subject,
                            new InterfaceState(
                                    at,
                                    InterfaceState.State.of(optional(data, "state")),
                                    optional(data, "reason"),
                                    optional(data, "version"),
                                    optional(data, "node")));
                case RUN_STARTED -> new ToldRun(id, subject, RunEvents.started(data, at));
                case RUN_PROGRESS -> new ToldRun(id, subject, RunEvents.progress(data, at));
                case RUN_FINISHED -> new ToldRun(id, subject, RunEvents.finished(data, at));
                case RUN_CANCELLED -> new ToldRun(id, subject, RunEvents.cancelled(data, at));
                case FILE_ARRIVED -> new ToldFile(id, subject, at);
                case String other ->
                    throw new Refused("type \"%s\" is not known; known are %s"
                            .formatted(
                                    other,
                                    String.join(
                                            ", ",
                                            FAILED,
                                            DELIVERED,
                                            STATE,
                                            RUN_STARTED,
                                            RUN_PROGRESS,
                                            RUN_FINISHED,
                                            RUN_CANCELLED,
                                            FILE_ARRIVED)));
            };
        } catch (IllegalArgumentException bad) {
            throw new Refused("data: " + bad.getMessage());
        }
    }

    /** What an event carries: as JSON in it, or coded in base64, as in binary mode it always is. */
    private static JsonNode data(JsonNode event) throws Refused {
        var data = event.get("data");
        var coded = text(event, "data_base64");
        if (coded.isEmpty()) {
            if (data == null || !data.isObject()) throw new Refused("data is missing or not a JSON object");
            return data;
        }
        if (data != null && !data.isNull()) throw new Refused("the event has data and data_base64; send one of them");
        var named = text(event, "datacontenttype");
        try {
            var type = ContentType.of(named.isEmpty() ? "application/json" : named);
            if (!type.json()) throw new Refused("data must be JSON, datacontenttype was \"" + named + "\"");
            var tree = EventsApi.JSON.readTree(type.text(bytes(coded, "data_base64")));
            if (tree == null || !tree.isObject()) throw new Refused("data is not a JSON object");
            return tree;
        } catch (JacksonException bad) {
            throw new Refused("data is not JSON: " + bad.getOriginalMessage());
        } catch (Refusal bad) {
            throw new Refused("data: " + bad.detail());
        }
    }

    private static FailedMessage failed(JsonNode data, Instant at) throws Refused {
        var type = optional(data, "payloadType");
        var payload = optional(data, "payload");
        byte[] binary = null;
        var coded = optional(data, "payloadBase64");
        if (!coded.isEmpty()) {
            if (!payload.isEmpty()) throw new Refused("data has payload and payloadBase64; send one of them");
            var bytes = bytes(coded, "data.payloadBase64");
            var text = PayloadText.of(type, bytes);
            payload = text.map(EventReader::clean).orElse("");
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

    private static byte[] bytes(String coded, String where) throws Refused {
        try {
            return Base64.getMimeDecoder().decode(coded);
        } catch (IllegalArgumentException bad) {
            throw new Refused(where + " is not base64: " + bad.getMessage());
        }
    }

    private static List<FailedMessage.Step> steps(@Nullable JsonNode node) throws Refused {
        var steps = new ArrayList<FailedMessage.Step>();
        for (var one : list(node, "steps"))
            steps.add(new FailedMessage.Step(
                    name(one, "name", 200),
                    time(one, "at"),
                    optional(one, "words"),
                    one.path("failed").asBoolean(false)));
        return steps;
    }

    private static List<FailedMessage.Attachment> attachments(@Nullable JsonNode node) throws Refused {
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

    private static List<JsonNode> list(@Nullable JsonNode node, String name) throws Refused {
        if (node == null || node.isNull()) return List.of();
        if (!node.isArray()) throw new Refused("data." + name + " must be a list");
        var list = new ArrayList<JsonNode>();
        for (var one : node) {
            if (!one.isObject()) throw new Refused("data." + name + " must be a list of objects");
            list.add(one);
        }
        return list;
    }

    private static ToldCarried carried(String id, String subject, JsonNode data, Instant to) throws Refused {
        var from = time(data, "from");
        if (!from.isBefore(to) || Duration.between(from, to).compareTo(LONGEST_SPAN) > 0) {
            throw new Refused("data.from must lie before time, by at most 24 h");
        }
        var count = data.get("delivered");
        if (count == null || !count.isInt() || count.intValue() < 0) {
            throw new Refused("data.delivered must be a whole number, 0 or more");
        }
        return new ToldCarried(id, subject, from, to, count.intValue(), delays(data.get("delays")));
    }

    private static Delays delays(@Nullable JsonNode node) throws Refused {
        if (node == null || node.isNull()) return Delays.none();
        if (!node.isArray() || node.size() > MOST_DELAYS)
            throw new Refused("data.delays must be a list of at most 100,000 numbers, in seconds");
        var seconds = new double[node.size()];
        for (int i = 0; i < seconds.length; i++) {
            if (!node.get(i).isNumber()) throw new Refused("data.delays must be a list of numbers, in seconds");
            seconds[i] = node.get(i).doubleValue();
        }
        return Delays.of(seconds);
    }

    private static Map<String, String> attributes(@Nullable JsonNode node) throws Refused {
        var attributes = new LinkedHashMap<String, String>();
        if (node == null || node.isNull()) return attributes;
        if (!node.isObject()) throw new Refused("data.attributes must be an object of texts");
        for (var entry : node.properties()) {
            if (entry.getValue().isContainer())
                throw new Refused("data.attributes." + entry.getKey() + " must be a text or a number");
            attributes.put(clean(entry.getKey()), clean(entry.getValue().asString()));
        }
        return attributes;
    }

    private static String text(JsonNode node, String name) {
        var value = node.get(name);
        return value != null && value.isString() ? clean(value.stringValue()) : "";
    }

    static String optional(JsonNode data, String name) throws Refused {
        var value = data.get(name);
        if (value == null || value.isNull()) return "";
        if (!value.isString()) throw new Refused("data." + name + " must be a text");
        return clean(value.stringValue());
    }

    /** A text that must be there, is not blank, and is of a bearable length. */
    static String name(JsonNode event, String name, int most) throws Refused {
        var value = text(event, name);
        if (value.isBlank()) throw new Refused(name + " is missing");
        if (value.length() > most)
            throw new Refused("%s is too long: at most %d characters, were %d".formatted(name, most, value.length()));
        return value;
    }

    static Instant time(JsonNode node, String name) throws Refused {
        var value = text(node, name);
        if (value.isEmpty()) throw new Refused(name + " is missing");
        try {
            return OffsetDateTime.parse(value).toInstant();
        } catch (DateTimeParseException bad) {
            throw new Refused("%s must be a time as in RFC 3339, such as 2026-11-24T06:42:00Z, was \"%s\""
                    .formatted(name, value));
        }
    }

    /** PostgreSQL keeps no NUL in a text; a mark stands in its place, so that it is seen and nothing is lost silently. */
    private static String clean(String text) {
        return text.indexOf('\0') < 0 ? text : text.replace('\0', '\uFFFD');
    }
}
