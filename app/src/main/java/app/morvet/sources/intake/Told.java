package app.morvet.sources.intake;

import app.morvet.core.readings.Sort;
import java.util.Map;

/**
 * A reading as a feed tells it.
 *
 * @param place  its line of the page, or its index in the list
 * @param labels without those that say what it is about
 * @param at     microseconds since 1970
 */
record Told(
        int place,
        String component,
        String kind,
        String measure,
        Sort sort,
        String unit,
        String help,
        Map<String, String> labels,
        long at,
        double value) {
    /** What it is about, for whoever is told that it was refused. */
    String named() {
        return component + " " + measure;
    }
}
