package app.morvet.sources.readings;

import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One measure of one component with its labels.
 *
 * @param component id of the component
 * @param feed         id of the feed that told it first; null for what Morvet counts itself
 * @param promised     how often it is promised itself; null where that is as often as its feed is
 * @param toldOnChange whether it is a state that is told only when it changes, and stands until then
 */
public record Series(
        long id,
        long component,
        Measure measure,
        Map<String, String> labels,
        @Nullable Long feed,
        boolean toldOnChange,
        @Nullable Duration promised) {
    /** What tells it apart from other series of the same measure and component: {@code /data}; empty without labels. */
    public String labelWords() {
        return String.join(" ", labels.values());
    }
}
