package app.morvet.sources.intake;

import app.morvet.core.readings.Sort;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A reading as a feed tells it.
 *
 * @param place its line of the page, or its index in the list
 * @param at    microseconds since 1970
 * @param value of a state no number: its place is known once its words are
 * @param state what it is in, where that is told; else null
 */
record Told(int place, ToldSeries of, long at, double value, @Nullable State state) {
    /**
     * @param words those that it is told to have, in order; the word itself among them
     * @param said  what it said beside its word; may be empty
     */
    record State(String word, List<String> words, String said) {
        State {
            if (!words.contains(word)) {
                var all = new ArrayList<>(words);
                all.add(word);
                words = all;
            }
        }
    }

    Told(int place, ToldSeries of, long at, double value) {
        this(place, of, at, value, null);
    }

    static Told of(
            State state,
            int place,
            String component,
            String kind,
            String measure,
            String help,
            Map<String, String> labels,
            long at) {
        var of = new ToldSeries(component, kind, measure, Sort.STATE, "", help, labels);
        return new Told(place, of, at, Double.NaN, state);
    }
}
