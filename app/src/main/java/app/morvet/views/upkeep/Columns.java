package app.morvet.views.upkeep;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;

/**
 * What can be said of each of many, by the name of the column; said when it is asked for. Plain words are looked for in all columns,
 * {@code kind:host} in one; every word must be found.
 */
final class Columns<T> {
    private final Map<String, Function<T, String>> columns = new LinkedHashMap<>();

    Columns<T> with(String name, Function<T, String> said) {
        columns.put(name, said);
        return this;
    }

    List<String> names() {
        return List.copyOf(columns.keySet());
    }

    /** Empty where there is no such column. */
    String of(T one, String column) {
        var said = columns.get(column);
        return said == null ? "" : said.apply(one);
    }

    /** Those that a query finds, in their order; all where it has no word. */
    List<T> find(List<T> all, String query) {
        var words = words(query);
        if (words.isEmpty()) return all;
        return all.stream()
                .filter(one -> words.stream().allMatch(word -> fits(one, word)))
                .toList();
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

    private boolean fits(T one, String word) {
        int colon = word.indexOf(':');
        if (colon > 0) {
            var column = word.substring(0, colon).replace('-', ' ');
            if (columns.containsKey(column)) return holds(of(one, column), word.substring(colon + 1));
        }
        return columns.values().stream().anyMatch(said -> holds(said.apply(one), word));
    }

    private static boolean holds(String value, String part) {
        return value.toLowerCase(Locale.ROOT).contains(part);
    }
}
