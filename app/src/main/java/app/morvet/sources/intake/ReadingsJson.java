package app.morvet.sources.intake;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Reads a reading that was sent as JSON. */
final class ReadingsJson {
    private static final long MOST_SECONDS = 100_000_000_000L;

    private ReadingsJson() {}

    /** @throws IllegalArgumentException where it is no reading; says why */
    static Told read(JsonNode node, int index, String feedKey, Instant now) {
        if (!node.isObject()) throw new IllegalArgumentException("a reading must be a JSON object");
        var state = state(node);
        var value = node.get("value");
        if (state == null && (value == null || !value.isNumber()))
            throw new IllegalArgumentException("value must be a number, or state a word");
        var labels = new TreeMap<String, String>();
        var given = node.get("labels");
        if (given != null && !given.isNull()) {
            if (!given.isObject()) throw new IllegalArgumentException("labels must be an object of texts");
            for (var entry : given.properties()) {
                if (!entry.getValue().isValueNode() || entry.getValue().isNull())
                    throw new IllegalArgumentException("the label " + entry.getKey() + " must be a text");
                labels.put(entry.getKey(), entry.getValue().asString());
            }
        }
        long at = Micros.of(time(text(node, "at", ""), now));
        if (state != null)
            return Told.of(
                    state,
                    index,
                    text(node, "component", feedKey),
                    text(node, "kind", "component"),
                    text(node, "measure", ""),
                    "",
                    labels,
                    at);
        var of = new ToldSeries(
                text(node, "component", feedKey),
                text(node, "kind", "component"),
                text(node, "measure", ""),
                sort(text(node, "sort", "gauge")),
                text(node, "unit", ""),
                "",
                labels);
        return new Told(index, of, at, value.doubleValue(Double.POSITIVE_INFINITY));
    }

    /** What a reading or an event says of a state; null where it says nothing of any. */
    static Told.@Nullable State state(JsonNode node) {
        var word = text(node, "state", "");
        if (word.isEmpty()) return null;
        var words = new ArrayList<String>();
        var given = node.path("words");
        if (!given.isMissingNode() && !given.isArray())
            throw new IllegalArgumentException("words must be a list of all words that the state may have, in order");
        for (var one : given) {
            if (!one.isString()) throw new IllegalArgumentException("words must be texts");
            words.add(one.stringValue());
        }
        return new Told.State(word, words, text(node, "said", ""));
    }

    private static String text(JsonNode node, String name, String otherwise) {
        var value = node.get(name);
        if (value == null || value.isNull()) return otherwise;
        if (!value.isString()) throw new IllegalArgumentException(name + " must be a text");
        return value.stringValue();
    }

    private static Sort sort(String word) {
        for (var sort : Sort.values()) if (sort != Sort.STATE && sort.word().equals(word)) return sort;
        throw new IllegalArgumentException(
                "sort must be gauge, counter or count (of a state, send its word as state), was \"" + word + "\"");
    }

    private static Instant time(String text, Instant now) {
        if (text.isEmpty()) return now;
        try {
            var at = OffsetDateTime.parse(text).toInstant();
            // What is far off is refused with what is old; it only must be a number of microseconds.
            if (Math.abs(at.getEpochSecond()) > MOST_SECONDS)
                throw new IllegalArgumentException("at is too far off, was \"" + text + "\"");
            return at;
        } catch (DateTimeParseException bad) {
            throw new IllegalArgumentException(
                    "at must be a time as in RFC 3339, such as 2026-11-24T06:42:00Z, was \"" + text + "\"", bad);
        }
    }
}
