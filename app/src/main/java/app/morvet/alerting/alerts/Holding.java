package app.morvet.alerting.alerts;

import app.morvet.core.alert.Move;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;

/** Something that covers alerts, so that they are recorded but nobody's work. */
public interface Holding {
    /** Whether an alert that is being raised is covered. */
    boolean covers(Move raised);

    /** One that it covers is recorded. */
    default void holds(Alert raised) {}

    /**
     * One that is held has moved, and is up.
     *
     * @return why it is somebody's work from now on, in a sentence; empty where it is held on
     */
    default Optional<String> letsGo(Alert held, Move move) {
        return Optional.empty();
    }

    /**
     * Alerts that have one cause since they came of the same work.
     *
     * @param alerts by their ids
     * @param since  when that work began
     * @param why    in words, for the log
     */
    record Together(Set<Long> alerts, Instant since, String why) {}

    /** What came of the same work as an alert that is not held, or not any more; empty where it came of none. */
    default Optional<Together> cameWith(Alert raised) {
        return Optional.empty();
    }
}
