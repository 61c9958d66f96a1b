package app.morvet.core.vendors;

import com.jayway.jsonpath.Configuration;
import com.jayway.jsonpath.DocumentContext;
import com.jayway.jsonpath.JsonPath;
import com.jayway.jsonpath.JsonPathException;
import com.jayway.jsonpath.Option;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A feed in JSON. What is not where the settings say it is has changed its shape, and is told. */
final class JsonFeed {
    private static final Configuration LENIENT = Configuration.defaultConfiguration()
            .addOptions(Option.SUPPRESS_EXCEPTIONS, Option.DEFAULT_PATH_LEAF_TO_NULL);

    /** So far an answer may say that it was made from when it was got. */
    private static final Duration OFF = Duration.ofMinutes(15);

    private static final int MOST_PARTS = 200;

    private final FeedSettings settings;
    private final List<String> faults = new ArrayList<>();

    private JsonFeed(FeedSettings settings) {
        this.settings = settings;
    }

    /** @throws IllegalArgumentException where it is no JSONPath */
    static JsonPath path(String text) {
        try {
            return JsonPath.compile(text);
        } catch (JsonPathException | IllegalArgumentException wrong) {
            throw new IllegalArgumentException("\"" + text + "\" is no JSONPath such as $.status", wrong);
        }
    }

    static Reading read(FeedSettings settings, String body, Instant now) {
        DocumentContext whole;
        try {
            whole = JsonPath.using(LENIENT).parse(body);
        } catch (RuntimeException | StackOverflowError unreadable) {
            throw new FeedSettings.Unreadable("The answer is no JSON.");
        }
        if (whole.json() instanceof String || whole.json() == null)
            throw new FeedSettings.Unreadable("The answer is no JSON.");
        return new JsonFeed(settings).read(whole, now);
    }

    private Reading read(DocumentContext whole, Instant now) {
        time(whole, now);
        var states = new LinkedHashMap<String, VendorState>();
        for (var part : list(whole, settings.parts(), "the parts")) if (states.size() < MOST_PARTS) part(part, states);
        if (!settings.state().isEmpty())
            states.put(Reading.WHOLE, state(at(whole.json(), settings.state()), settings.state()));
        else if (!settings.parts().isEmpty())
            states.put(
                    Reading.WHOLE,
                    states.isEmpty() ? VendorState.UNKNOWN : VendorState.worst(List.copyOf(states.values())));
        return new Reading(states, bulletins(whole), faults);
    }

    private void time(DocumentContext whole, Instant now) {
        if (settings.time().isEmpty()) return;
        var made = FeedTimes.read(at(whole.json(), settings.time()));
        if (made == null) faults.add("There is no time at %s any more.".formatted(settings.time()));
        else if (Duration.between(made, now).abs().compareTo(OFF) > 0)
            faults.add("It says that it was made %s, which is more than %d min from now."
                    .formatted(made, OFF.toMinutes()));
    }

    private void part(Object part, Map<String, VendorState> states) {
        var name = at(part, settings.partName());
        if (!(name instanceof String text) || text.isBlank()) {
            faults.add("A part has no name at %s.".formatted(settings.partName()));
            return;
        }
        states.put(text.strip(), state(at(part, settings.partState()), settings.partState()));
    }

    private VendorState state(@Nullable Object word, String where) {
        if (word == null || word instanceof List || word instanceof Map) {
            faults.add("There is no word at %s any more.".formatted(where));
            return VendorState.UNKNOWN;
        }
        var known = settings.words().get(word.toString().strip().toLowerCase(Locale.ROOT));
        if (known == null) {
            faults.add("\"%s\" is no word that is known; say what it means.".formatted(shortened(word.toString())));
            return VendorState.UNKNOWN;
        }
        return known;
    }

    private static String shortened(String text) {
        return text.length() <= 80 ? text : text.substring(0, 79) + "…";
    }

    private List<Bulletin> bulletins(DocumentContext whole) {
        var found = new ArrayList<Bulletin>();
        for (var one : list(whole, settings.bulletins(), "the bulletins")) {
            if (found.size() == Reading.MOST_BULLETINS) {
                faults.add("It has more than %d bulletins; the rest is left out.".formatted(Reading.MOST_BULLETINS));
                break;
            }
            var id = text(one, "id");
            if (id.isBlank())
                faults.add("A bulletin has no id at %s."
                        .formatted(settings.fields().get("id")));
            else found.add(bulletin(id, one));
        }
        return found;
    }

    private Bulletin bulletin(String id, Object one) {
        return new Bulletin(
                id,
                settings.planned().contains(text(one, "kind").toLowerCase(Locale.ROOT)),
                text(one, "title"),
                plain(text(one, "text")),
                FeedTimes.read(field(one, "from")),
                FeedTimes.read(field(one, "to")),
                FeedTimes.read(field(one, "updated")),
                settings.over().contains(text(one, "in").toLowerCase(Locale.ROOT)),
                parts(field(one, "parts")));
    }

    /** Texts are shown as they are, and marks of a page are no part of what they say. */
    static String plain(String text) {
        return text.replaceAll("(?is)<(script|style)\\b.*?</\\1\\s*>", " ")
                .replaceAll("(?i)<br\\s*/?>|</p\\s*>", "\n")
                .replaceAll("<[^<>]{0,2000}>", " ")
                .replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&quot;", "\"")
                .replace("&#39;", "'")
                .replace("&nbsp;", " ")
                .replace("&amp;", "&")
                .replaceAll("[ \\t]+", " ")
                .strip();
    }

    private static Set<String> parts(@Nullable Object written) {
        var parts = new LinkedHashSet<String>();
        if (written instanceof List<?> some) some.forEach(one -> parts.add(String.valueOf(one)));
        else if (written != null) parts.add(written.toString());
        return parts;
    }

    private @Nullable Object field(Object one, String field) {
        var path = settings.fields().get(field);
        return path.isEmpty() ? null : at(one, path);
    }

    private String text(Object one, String field) {
        var found = field(one, field);
        return found == null || found instanceof Map ? "" : found.toString().strip();
    }

    private List<?> list(DocumentContext whole, String path, String what) {
        if (path.isEmpty()) return List.of();
        var found = at(whole.json(), path);
        if (found instanceof List<?> some) return some;
        faults.add("%s are not at %s any more."
                .formatted(what.substring(0, 1).toUpperCase(Locale.ROOT) + what.substring(1), path));
        return List.of();
    }

    private static @Nullable Object at(Object json, String path) {
        try {
            return JsonPath.using(LENIENT).parse(json).read(path(path));
        } catch (RuntimeException | StackOverflowError none) {
            return null;
        }
    }
}
