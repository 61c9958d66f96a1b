package app.morvet.core.handoff;

import com.jayway.jsonpath.Configuration;
import com.jayway.jsonpath.InvalidJsonException;
import com.jayway.jsonpath.spi.json.JsonProvider;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The JSON that is sent to a ticket desk, with variables such as {@code {{title}}} in its texts. It is parsed first and
 * filled afterwards, value by value, so nothing in a payload or an error text can change its shape. A text that is one
 * variable and nothing else takes the variable's own type: {@code "{{failures}}"} becomes a number, {@code "{{samples}}"}
 * a list.
 */
public final class TicketTemplate {
    private static final Pattern VARIABLE = Pattern.compile("\\{\\{\\s*([A-Za-z.]+)\\s*}}");
    private static final JsonProvider JSON =
            Configuration.defaultConfiguration().jsonProvider();

    private final Object tree;

    private TicketTemplate(Object tree) {
        this.tree = tree;
    }

    /**
     * Reads a template.
     *
     * @param known the names that may be used as variables
     * @throws IllegalArgumentException when it is not JSON, not an object, or names an unknown variable; says which
     */
    public static TicketTemplate parse(String json, java.util.Set<String> known) {
        Object tree;
        try {
            tree = JSON.parse(json);
        } catch (InvalidJsonException notJson) {
            var cause = notJson.getCause();
            throw new IllegalArgumentException(
                    "the template is not JSON: " + (cause == null ? notJson.getMessage() : cause.getMessage()),
                    notJson);
        }
        if (!JSON.isMap(tree)) throw new IllegalArgumentException("the template must be a JSON object, { … }");
        var unknown = new TreeSet<String>();
        walk(tree, text -> {
            VARIABLE.matcher(text)
                    .results()
                    .map(found -> found.group(1))
                    .filter(name -> !known.contains(name))
                    .forEach(unknown::add);
            return text;
        });
        if (!unknown.isEmpty()) {
            throw new IllegalArgumentException("the template uses %s, which is not known; known are %s"
                    .formatted(String.join(", ", unknown), String.join(", ", new TreeSet<>(known))));
        }
        return new TicketTemplate(tree);
    }

    /**
     * The filled JSON text.
     *
     * @param values texts, numbers, booleans, lists and maps of these, by variable; a missing one becomes null or empty
     */
    public String fill(Map<String, ?> values) {
        return JSON.toJson(walk(tree, text -> filled(text, values)));
    }

    private static @Nullable Object filled(String text, Map<String, ?> values) {
        var matcher = VARIABLE.matcher(text);
        if (matcher.matches()) return values.get(matcher.group(1));
        matcher.reset();
        return matcher.replaceAll(found -> {
            var value = values.get(found.group(1));
            return Matcher.quoteReplacement(value == null ? "" : value.toString());
        });
    }

    private interface OnText {
        @Nullable
        Object apply(String text);
    }

    private static @Nullable Object walk(@Nullable Object node, OnText onText) {
        return switch (node) {
            case String text -> onText.apply(text);
            case Map<?, ?> map -> {
                var copy = new LinkedHashMap<String, @Nullable Object>();
                map.forEach((key, value) -> copy.put(String.valueOf(key), walk(value, onText)));
                yield copy;
            }
            case List<?> list -> {
                var copy = new ArrayList<@Nullable Object>();
                list.forEach(value -> copy.add(walk(value, onText)));
                yield copy;
            }
            case null, default -> node;
        };
    }
}
