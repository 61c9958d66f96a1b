package app.morvet.work.actions;

import app.morvet.ground.access.Role;
import app.morvet.sources.outposts.Outpost;
import com.jayway.jsonpath.JsonPath;
import com.jayway.jsonpath.JsonPathException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Something that is done by a web call.
 *
 * @param component  that it is done to, by its id
 * @param lowest     the least that who asks must be
 * @param headers    that are sent, one a line; they may hold secrets
 * @param body       JSON that is posted, with {@code {name}} for an argument
 * @param arguments  by name, the values that each may have
 * @param figureUrl  where the figure is read that it changes; empty where none is
 * @param figurePath the place of that figure in the answer, as JSONPath (RFC 9535)
 */
record WebAction(
        long id,
        String name,
        long component,
        Role lowest,
        String url,
        String headers,
        String body,
        Map<String, List<String>> arguments,
        String figureUrl,
        String figurePath,
        int version) {
    private static final int LONGEST = 5000;
    private static final int MOST_VALUES = 50;

    WebAction {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("An action is called by 1 to 100 characters.");
        if (body.length() > LONGEST) throw new IllegalArgumentException("A body has at most 5,000 characters.");
        for (var argument : arguments.keySet())
            if (!body.contains("{" + argument + "}") && !url.contains("{" + argument + "}"))
                throw new IllegalArgumentException(
                        "The argument %s stands nowhere in the body or the address.".formatted(argument));
        if (figureUrl.isEmpty() != figurePath.isEmpty())
            throw new IllegalArgumentException("A figure has an address and a place in its answer, or neither.");
        if (!figurePath.isEmpty()) path(figurePath);
    }

    private static JsonPath path(String text) {
        try {
            return JsonPath.compile(text);
        } catch (JsonPathException | IllegalArgumentException wrong) {
            throw new IllegalArgumentException("\"" + text + "\" is no JSONPath, such as $.slots.", wrong);
        }
    }

    /** Reads {@code slots: 2, 4, 8}, a line for each argument. */
    static Map<String, List<String>> arguments(String lines) {
        var arguments = new LinkedHashMap<String, List<String>>();
        for (var line :
                lines.lines().map(String::strip).filter(it -> !it.isEmpty()).toList()) {
            var part = line.split("\\s*:\\s*", 2);
            if (part.length < 2 || !part[0].matches("[A-Za-z][A-Za-z0-9_-]{0,30}"))
                throw new IllegalArgumentException(
                        "\"%s\" is no argument; write it as slots: 2, 4, 8.".formatted(line));
            var values = new ArrayList<String>();
            for (var value : part[1].split("\\s*,\\s*")) {
                if (!value.matches("[A-Za-z0-9 ._-]{1,60}"))
                    throw new IllegalArgumentException(
                            "\"%s\" is no value of %s: letters, digits, blanks, dots and dashes."
                                    .formatted(value, part[0]));
                values.add(value);
            }
            if (values.size() > MOST_VALUES) throw new IllegalArgumentException("An argument has at most 50 values.");
            arguments.put(part[0], values);
        }
        return arguments;
    }

    String argumentLines() {
        var lines = new ArrayList<String>();
        arguments.forEach((name, values) -> lines.add(name + ": " + String.join(", ", values)));
        return String.join("\n", lines);
    }

    List<Outpost.Argument> offered() {
        return arguments.entrySet().stream()
                .map(one -> new Outpost.Argument(one.getKey(), one.getValue()))
                .toList();
    }

    /** A text with arguments in their places; each is one of those listed, so it is what it is in JSON and in an address. */
    static String filled(String text, Map<String, String> given) {
        var filled = text;
        for (var one : new TreeMap<>(given).entrySet())
            filled = filled.replace("{" + one.getKey() + "}", one.getValue());
        return filled;
    }

    /** The figure that stands in an answer; null where there is none. */
    @Nullable
    String figure(String answer) {
        try {
            Object found = path(figurePath).read(answer);
            return found == null ? null : found.toString();
        } catch (JsonPathException | IllegalArgumentException none) {
            return null;
        }
    }
}
