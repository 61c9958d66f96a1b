package app.morvet.views.upkeep;

import app.morvet.ground.estate.Estate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import java.util.function.Function;
import org.springframework.stereotype.Component;

/**
 * Looks through the components by any of their attributes: plain words are looked for in all of them, {@code kind:host}
 * in one. Every word must be found.
 */
@Component
class EstateSearch {
    static final String UNASSIGNED = "not assigned";

    /** A component with what can be said of it, by the name of the column; made when it is asked for. */
    record Row(Estate.Component component, Map<String, Function<Estate.Component, String>> columns) {
        String get(String column) {
            var of = columns.get(column);
            return of == null ? "" : of.apply(component);
        }
    }

    private final Estate estate;
    private final Map<String, Function<Estate.Component, String>> columns = new LinkedHashMap<>();

    EstateSearch(Estate estate) {
        this.estate = estate;
        columns.put("name", Estate.Component::name);
        columns.put("key", Estate.Component::key);
        columns.put("kind", Estate.Component::kind);
        columns.put(
                "application",
                one -> estate.applicationOf(one).map(Estate.Application::name).orElse(UNASSIGNED));
        columns.put("team", one -> estate.ownerOf(one).map(Estate.Team::name).orElse(""));
        columns.put("tier", one -> estate.applicationOf(one)
                .map(it -> "" + it.tier().number())
                .orElse(""));
        columns.put("environment", one -> estate.applicationOf(one)
                .map(Estate.Application::environment)
                .orElse(""));
        columns.put("stands on", this::standsOn);
        columns.put(
                "groups",
                one -> String.join(", ", new TreeSet<>(estate.factsOf(one).groups())));
        columns.put("first seen", one -> one.firstSeen().toString());
    }

    private String standsOn(Estate.Component one) {
        var on = one.standsOn();
        return on == null ? "" : estate.component(on).name();
    }

    List<String> columns() {
        return List.copyOf(columns.keySet());
    }

    static List<String> usual() {
        return List.of("name", "kind", "application", "team", "tier", "stands on");
    }

    /** By name. */
    List<Estate.Component> find(String query) {
        var words = words(query);
        if (words.isEmpty()) return estate.components();
        return estate.components().stream()
                .filter(one -> words.stream().allMatch(word -> fits(row(one), word)))
                .toList();
    }

    Row row(Estate.Component one) {
        return new Row(one, columns);
    }

    /** Words are parted by blanks; what stands in quotes is one word. */
    private static List<String> words(String query) {
        var words = new ArrayList<String>();
        var word = new StringBuilder();
        boolean quoted = false;
        for (char one : query.toLowerCase(Locale.ROOT).toCharArray()) {
            if (one == '"') quoted = !quoted;
            else if (Character.isWhitespace(one) && !quoted) {
                if (!word.isEmpty()) words.add(word.toString());
                word.setLength(0);
            } else word.append(one);
        }
        if (!word.isEmpty()) words.add(word.toString());
        return words;
    }

    private boolean fits(Row row, String word) {
        int colon = word.indexOf(':');
        if (colon > 0) {
            var column = word.substring(0, colon).replace('-', ' ');
            if (columns.containsKey(column)) return holds(row.get(column), word.substring(colon + 1));
        }
        return columns.keySet().stream().anyMatch(column -> holds(row.get(column), word));
    }

    private static boolean holds(String value, String part) {
        return value.toLowerCase(Locale.ROOT).contains(part);
    }
}
