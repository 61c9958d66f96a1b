package app.morvet.core.readings;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The words that a measure of sort {@link Sort#STATE} knows, in order. A reading of it is the place of one of them, from 0; so
 * that what was read before keeps its meaning, words are only ever added at the end.
 *
 * @param all at most {@value #MOST}, each once
 */
public record StateWords(List<String> all) {
    public static final int MOST = 64;
    private static final int LONGEST = 60;
    private static final String BETWEEN = ", ";

    /** Those of a measure of which nothing was told yet. */
    public static final StateWords NONE = new StateWords(List.of());

    public StateWords {
        all = List.copyOf(all);
        if (all.size() > MOST)
            throw new IllegalArgumentException("a state has at most %d words, were %d".formatted(MOST, all.size()));
        all.forEach(StateWords::check);
        if (new HashSet<>(all).size() < all.size())
            throw new IllegalArgumentException("a word of a state stands twice in " + String.join(BETWEEN, all));
    }

    private static void check(String word) {
        if (word.isBlank() || word.length() > LONGEST || !word.equals(word.strip()))
            throw new IllegalArgumentException(
                    "a word of a state has 1 to 60 characters, with no blank around it, was \"" + word + "\"");
        if (word.indexOf(',') >= 0 || word.chars().anyMatch(Character::isISOControl))
            throw new IllegalArgumentException(
                    "a word of a state has no comma and no line break, was \"" + word + "\"");
    }

    /** Those of each measure are asked for with each reading of it. */
    private static final Map<String, StateWords> PARSED = new ConcurrentHashMap<>();

    private static final int MOST_PARSED = 10_000;

    /** As {@link #text} wrote them. */
    public static StateWords parse(String text) {
        if (PARSED.size() > MOST_PARSED) PARSED.clear();
        return text.isEmpty() ? NONE : PARSED.computeIfAbsent(text, it -> new StateWords(List.of(it.split(BETWEEN))));
    }

    /** {@code running, starting, stopped}. */
    public String text() {
        return String.join(BETWEEN, all);
    }

    /** The place of a word; -1 where it is not known. */
    public int place(String word) {
        return all.indexOf(word);
    }

    /** The word at a place; what is no place of any is told by its number. */
    public String word(double place) {
        int at = (int) place;
        return at == place && at >= 0 && at < all.size() ? all.get(at) : "state " + place;
    }

    /**
     * These, and behind them what else was told, in its order.
     *
     * @throws IllegalArgumentException where they would be too many, or one is none
     */
    public StateWords with(List<String> told) {
        if (all.containsAll(told)) return this;
        var more = new ArrayList<>(all);
        for (var word : told) if (!more.contains(word)) more.add(word);
        return new StateWords(more);
    }
}
