package app.morvet.guards;

import app.morvet.core.alert.Transition;
import java.util.List;

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
     */
    public record Moved(long guard, String group, long component, long series, Transition transition, String words) {}

    /** @param at up to when it was judged */
    public record Counted(
            long guard, String group, long series, java.time.Instant at, double value, double worst, String words) {}
}
