package app.morvet.core.callouts;

import app.morvet.core.handoff.TicketTemplate;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What is sent by a web call, with variables such as {@code {{title}}} in its texts: a JSON object, or a form with one {@code name =
 * text} a line. It is read first and filled afterwards, so nothing in an error text can change its shape.
 */
public final class CallTemplate {
    private static final Pattern VARIABLE = Pattern.compile("\\{\\{\\s*([A-Za-z.]+)\\s*}}");

    private final @Nullable TicketTemplate json;
    private final Map<String, String> form;

    private CallTemplate(@Nullable TicketTemplate json, Map<String, String> form) {
        this.json = json;
        this.form = form;
    }

    /**
     * @param known the names that may be used as variables
     * @throws IllegalArgumentException where it is neither, or names an unknown variable; says which, and in which line of a form
     */
    public static CallTemplate parse(String text, Set<String> known) {
        if (text.strip().startsWith("{") && !text.strip().startsWith("{{"))
            return new CallTemplate(TicketTemplate.parse(text, known), Map.of());
        var form = new LinkedHashMap<String, String>();
        int number = 0;
        for (var line : text.lines().toList()) {
            number++;
            if (line.isBlank()) continue;
            var parts = line.split("=", 2);
            if (parts.length < 2 || parts[0].isBlank())
                throw new IllegalArgumentException(
                        "line " + number + " of the template must read: name = text; or the whole is JSON, { … }");
            for (var name :
                    VARIABLE.matcher(parts[1]).results().map(it -> it.group(1)).toList())
                if (!known.contains(name))
                    throw new IllegalArgumentException(
                            "line %d of the template uses %s, which is not known; known are %s"
                                    .formatted(number, name, String.join(", ", new TreeSet<>(known))));
            form.put(parts[0].strip(), parts[1].strip());
        }
        if (form.isEmpty())
            throw new IllegalArgumentException("say what is sent: JSON, { … }, or lines of name = text");
        return new CallTemplate(null, form);
    }

    /** The media type of what it makes. */
    public String type() {
        return json == null ? "application/x-www-form-urlencoded" : "application/json";
    }

    /** @param values by variable; a missing one is empty */
    public String fill(Map<String, ?> values) {
        if (json != null) return json.fill(values);
        var pairs = new ArrayList<String>();
        form.forEach((name, text) -> pairs.add(encoded(name) + "=" + encoded(filled(text, values))));
        return pairs.stream().collect(Collectors.joining("&"));
    }

    /** A text such as a path, with each variable as it stands in an address. */
    public static String path(String path, Map<String, ?> values) {
        return VARIABLE.matcher(path).replaceAll(found -> {
            var value = values.get(found.group(1));
            return Matcher.quoteReplacement(
                    value == null ? "" : encoded(value.toString()).replace("+", "%20"));
        });
    }

    private static String filled(String text, Map<String, ?> values) {
        return VARIABLE.matcher(text).replaceAll(found -> {
            var value = values.get(found.group(1));
            return Matcher.quoteReplacement(value == null ? "" : value.toString());
        });
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }
}
