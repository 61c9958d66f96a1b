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
    public record Moved(long guard, long component, Transition transition) {}

    public record Counted(long guard, long component, double value, double worst) {}
}
