package app.morvet.failures;

import app.morvet.core.alert.Transition;
import java.time.Instant;
import java.util.List;

/**
 * What failed messages did to alerts. Published inside the transaction that takes note of the messages.
 *
 * @param moved   raised and cleared, in order of time
 * @param counted alerts that are up and have grown
 */
public record FailuresMoved(List<Moved> moved, List<Counted> counted) {
    /** What folds into one alert: so many messages of a rule. */
    public record Fold(long rule, String key, long component, long family, boolean overAll) {}

    /** @param words what is wrong, in one line */
    public record Moved(Fold fold, Transition transition, String words) {}

    /** @param failures how many by now */
    public record Counted(Fold fold, Instant at, long failures, String words) {}
}
