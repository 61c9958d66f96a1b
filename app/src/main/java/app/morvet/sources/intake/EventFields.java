package app.morvet.sources.intake;

import app.morvet.ground.base.PlainText;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Reads single fields of an event and of its data, and says of a bad one how it should be. */
public final class EventFields {
    private static final Instant EARLIEST = Instant.EPOCH;
    private static final Instant LATEST = Instant.parse("2200-01-01T00:00:00Z");

    private EventFields() {}

    /** A text; empty where there is none or it is something else. */
    public static String text(JsonNode node, String name) {
        var value = node.get(name);
        return value != null && value.isString() ? PlainText.of(value.stringValue()) : "";
    }

    /** A text of the data; empty where there is none. */
    public static String optional(JsonNode data, String name) throws EventRefused {
        var value = data.get(name);
        if (value == null || value.isNull()) return "";
        if (!value.isString()) throw new EventRefused("data." + name + " must be a text");
        return PlainText.of(value.stringValue());
    }

    /** A text that must be there, is not blank, and is of a bearable length. */
    public static String name(JsonNode event, String name, int most) throws EventRefused {
        var value = text(event, name);
        if (value.isBlank()) throw new EventRefused(name + " is missing");
        if (value.length() > most)
            throw new EventRefused(
                    "%s is too long: at most %d characters, were %d".formatted(name, most, value.length()));
        return value;
    }

    public static Instant time(JsonNode node, String name) throws EventRefused {
        var value = text(node, name);
        if (value.isEmpty()) throw new EventRefused(name + " is missing");
        try {
            var at = OffsetDateTime.parse(value).toInstant();
            if (at.isBefore(EARLIEST) || !at.isBefore(LATEST))
                throw new EventRefused("%s must lie from 1970 to 2199, was \"%s\"".formatted(name, value));
            return at;
        } catch (DateTimeParseException bad) {
            throw new EventRefused("%s must be a time as in RFC 3339, such as 2026-11-24T06:42:00Z, was \"%s\""
                    .formatted(name, value));
        }
    }

    /** @param where in words for the sender */
    public static byte[] bytes(String coded, String where) throws EventRefused {
        try {
            return Base64.getMimeDecoder().decode(coded);
        } catch (IllegalArgumentException bad) {
            throw new EventRefused(where + " is not base64: " + bad.getMessage());
        }
    }

    /** A list of objects in the data; empty where there is none. */
    public static List<JsonNode> list(@Nullable JsonNode node, String name) throws EventRefused {
        if (node == null || node.isNull()) return List.of();
        if (!node.isArray()) throw new EventRefused("data." + name + " must be a list");
        var list = new ArrayList<JsonNode>();
        for (var one : node) {
            if (!one.isObject()) throw new EventRefused("data." + name + " must be a list of objects");
            list.add(one);
        }
        return list;
    }
}
