package app.morvet.alerting.alerts;

import app.morvet.core.alert.Move;
import java.util.Optional;

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
}
