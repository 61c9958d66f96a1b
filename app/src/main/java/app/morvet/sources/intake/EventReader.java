package app.morvet.sources.intake;

import app.morvet.core.estate.ComponentKey;
import app.morvet.core.messages.EventTimes;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * Reads one CloudEvents 1.0 event: what is common to all of them, and the data as its {@link EventKind} does. Says of a bad one
 * which attribute is wrong and how it should be.
 */
@Component
class EventReader {
    private static final int LONGEST_ID = 200;
    private static final int LONGEST_SOURCE = 400;
    private static final int LONGEST_SUBJECT = 200;

    /** What an event says, before what it is about is looked up. */
    record Read<T>(EventKind<T> kind, String id, String subject, Instant at, T said) {
        EventKind.Arrived<T> about(long component) {
            return new EventKind.Arrived<>(id, subject, component, at, said);
        }
    }

    private final Map<String, EventKind<?>> kinds = new LinkedHashMap<>();

    EventReader(List<EventKind<?>> all) {
        for (var kind : all)
            for (var type : kind.types())
                if (kinds.put(type, kind) != null) throw new IllegalStateException("two kinds of events are " + type);
    }

    /** Whether an event leaves its time out, as CloudEvents allows. */
    static boolean isTimeless(JsonNode event) {
        return event.isObject()
                && (event.get("time") == null || event.get("time").isNull());
    }

    /** What tells an event from all others: its source and its id. */
    static String identity(JsonNode event) {
        return EventFields.text(event, "source") + " " + EventFields.text(event, "id");
    }

    /** @param arrivals when events first came that bear no time, by their {@link #identity} */
    Read<?> read(JsonNode event, Map<String, Instant> arrivals, Instant now) throws EventRefused {
        if (!event.isObject()) throw new EventRefused("an event must be a JSON object");
        var version = EventFields.text(event, "specversion");
        if (!"1.0".equals(version)) throw new EventRefused("specversion must be \"1.0\", was \"" + version + "\"");
        var id = EventFields.name(event, "id", LONGEST_ID);
        EventFields.name(event, "source", LONGEST_SOURCE);
        var subject = EventFields.name(event, "subject", LONGEST_SUBJECT);
        if (kind(event) instanceof EventKind<?> known && known.about().isPresent()) {
            var unfit = ComponentKey.refusal(subject);
            if (unfit != null) throw new EventRefused("subject: " + unfit);
        }
        var at = isTimeless(event) ? arrivals.getOrDefault(identity(event), now) : EventFields.time(event, "time");
        var refusal = EventTimes.refusal(at, now);
        if (refusal.isPresent()) throw new EventRefused(refusal.get());
        var data = data(event);
        var type = EventFields.text(event, "type");
        var kind = kind(event);
        if (kind == null)
            throw new EventRefused(
                    "type \"%s\" is not known; known are %s".formatted(type, String.join(", ", kinds.keySet())));
        try {
            return read(kind, type, id, subject, at, data);
        } catch (IllegalArgumentException bad) {
            throw new EventRefused("data: " + bad.getMessage());
        } catch (JacksonException | ArithmeticException | DateTimeException bad) {
            throw new EventRefused("data cannot be read: " + bad.getMessage());
        }
    }

    private @Nullable EventKind<?> kind(JsonNode event) {
        return kinds.get(EventFields.text(event, "type"));
    }

    private static <T> Read<T> read(
            EventKind<T> kind, String type, String id, String subject, Instant at, JsonNode data) throws EventRefused {
        return new Read<>(kind, id, subject, at, kind.read(type, data, at));
    }

    /** What an event carries: as JSON in it, or coded in base64, as in binary mode it always is. */
    private static JsonNode data(JsonNode event) throws EventRefused {
        var data = event.get("data");
        var coded = EventFields.text(event, "data_base64");
        if (coded.isEmpty()) {
            if (data == null || !data.isObject()) throw new EventRefused("data is missing or not a JSON object");
            return data;
        }
        if (data != null && !data.isNull())
            throw new EventRefused("the event has data and data_base64; send one of them");
        var named = EventFields.text(event, "datacontenttype");
        try {
            var type = ContentType.of(named.isEmpty() ? "application/json" : named);
            if (!type.json()) throw new EventRefused("data must be JSON, datacontenttype was \"" + named + "\"");
            var tree = EventsApi.JSON.readTree(type.text(EventFields.bytes(coded, "data_base64")));
            if (tree == null || !tree.isObject()) throw new EventRefused("data is not a JSON object");
            return tree;
        } catch (JacksonException bad) {
            throw new EventRefused("data is not JSON: " + bad.getOriginalMessage());
        } catch (Refusal bad) {
            throw new EventRefused("data: " + bad.detail());
        }
    }
}
