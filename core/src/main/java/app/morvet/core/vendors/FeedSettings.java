package app.morvet.core.vendors;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * How a feed of a vendor is read. In JSON each field is a JSONPath (RFC 9535); those of a part or a bulletin begin at it.
 *
 * @param shape    what the answer is
 * @param state    JSON: where the word of the whole stands; empty where it is the worst of its parts
 * @param parts    JSON: where the list of parts stands, or empty
 * @param partName JSON: its name within a part
 * @param partState JSON: its word within a part
 * @param time     JSON: when the answer was made, or empty
 * @param bulletins JSON: where the list of bulletins stands, or empty
 * @param fields   JSON: within a bulletin, by {@link #FIELDS}
 * @param words    what the vendor's words mean, lower case: of states, or of categories of Atom
 * @param planned  the words of kinds, or categories, that are planned work
 * @param over     the words of what a bulletin is in, or categories, that mean that it is over
 */
public record FeedSettings(
        Shape shape,
        String state,
        String parts,
        String partName,
        String partState,
        String time,
        String bulletins,
        Map<String, String> fields,
        Map<String, VendorState> words,
        Set<String> planned,
        Set<String> over) {
    /** What is read of a bulletin in JSON. */
    public static final List<String> FIELDS =
            List.of("id", "title", "text", "kind", "in", "from", "to", "updated", "parts");

    /** What an answer is. */
    public enum Shape {
        JSON("JSON"),
        XML("Atom or RSS"),
        CALENDAR("iCalendar");

        private final String words;

        Shape(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * As they are typed: by name, words as lines {@code degraded = serves in part}, lists with commas.
     *
     * @throws IllegalArgumentException saying what cannot be
     */
    public static FeedSettings of(Map<String, String> typed) {
        var shape = Arrays.stream(Shape.values())
                .filter(one -> one.name().equalsIgnoreCase(given(typed, "shape")))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("a feed is JSON, Atom or RSS, or iCalendar"));
        var fields = new LinkedHashMap<String, String>();
        for (var field : FIELDS) fields.put(field, path(typed, "bulletin-" + field));
        var settings = new FeedSettings(
                shape,
                path(typed, "state"),
                path(typed, "parts"),
                path(typed, "partName"),
                path(typed, "partState"),
                path(typed, "time"),
                path(typed, "bulletins"),
                fields,
                words(given(typed, "words")),
                list(given(typed, "planned")),
                list(given(typed, "over")));
        settings.check();
        return settings;
    }

    private void check() {
        if (shape != Shape.JSON) return;
        if (state.isEmpty() && parts.isEmpty() && bulletins.isEmpty())
            throw new IllegalArgumentException("say where the state, the parts or the bulletins stand");
        if (!parts.isEmpty() && (partName.isEmpty() || partState.isEmpty()))
            throw new IllegalArgumentException("of the parts say where in each its name and its state stand");
        if (!bulletins.isEmpty()
                && (fields.get("id").isEmpty() || fields.get("title").isEmpty()))
            throw new IllegalArgumentException("of the bulletins say where in each its id and its title stand");
        if ((!state.isEmpty() || !parts.isEmpty()) && words.isEmpty())
            throw new IllegalArgumentException(
                    "say what the vendor's words mean, a line each: degraded = serves in part");
    }

    private static String given(Map<String, String> typed, String name) {
        return typed.getOrDefault(name, "").strip();
    }

    private static String path(Map<String, String> typed, String name) {
        var path = given(typed, name);
        if (!path.isEmpty()) JsonFeed.path(path);
        return path;
    }

    private static Map<String, VendorState> words(String lines) {
        var words = new LinkedHashMap<String, VendorState>();
        for (var line :
                lines.lines().map(String::strip).filter(it -> !it.isEmpty()).toList()) {
            int sign = line.lastIndexOf('=');
            var state = VendorState.of(sign < 0 ? "" : line.substring(sign + 1));
            var word = sign < 0 ? "" : line.substring(0, sign).strip().toLowerCase(Locale.ROOT);
            if (word.isEmpty() || state.isEmpty())
                throw new IllegalArgumentException(
                        "\"%s\" is no line such as degraded = serves in part; a word means serves, serves in part, does not serve or not known"
                                .formatted(line));
            words.put(word, state.get());
        }
        return words;
    }

    private static Set<String> list(String text) {
        return Arrays.stream(text.split(","))
                .map(one -> one.strip().toLowerCase(Locale.ROOT))
                .filter(one -> !one.isEmpty())
                .collect(Collectors.toUnmodifiableSet());
    }

    /** What a body says, by these settings; never throws for what a body is. */
    public Reading read(String body, java.time.Instant now) {
        try {
            return switch (shape) {
                case JSON -> JsonFeed.read(this, body, now);
                case XML -> XmlFeed.read(this, body, now);
                case CALENDAR -> CalendarFeed.read(body, now);
            };
        } catch (Unreadable unreadable) {
            return new Reading(Map.of(), List.of(), List.of(String.valueOf(unreadable.getMessage())));
        }
    }

    /** An answer that is not of its shape at all. */
    static final class Unreadable extends RuntimeException {
        private static final long serialVersionUID = 1;

        Unreadable(String why) {
            super(why);
        }
    }
}
