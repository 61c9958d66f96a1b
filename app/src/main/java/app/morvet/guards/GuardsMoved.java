package app.morvet.guards;

import app.morvet.core.alert.Transition;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a round of evaluation changed. Published inside the transaction that stores the guards' new states.
 *
 * @param moved   transitions, in order of time
 * @param counted alerts that are up and whose value changed without a transition
 */
public record GuardsMoved(List<Moved> moved, List<Counted> counted) {
    /**
     * @param group     what has one alert together, within the guard
     * @param component of the series that caused it
     * @param words     what is wrong, in one line
     * @param worst     the same for the worst value; null where that cannot be said any more
     */
    public record Moved(
            long guard,
            String group,
            long component,
            long series,
            Transition transition,
            String words,
            @Nullable String worst) {}

    /**
     * @param at         up to when it was judged
     * @param worstWords what is wrong in words, for the worst value; null where that cannot be said any more
     */
    public record Counted(
            long guard,
            String group,
            long series,
            java.time.Instant at,
            double value,
            double worst,
            String words,
            @Nullable String worstWords) {}
}
