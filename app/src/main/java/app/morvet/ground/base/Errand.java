package app.morvet.ground.base;

import java.time.Instant;
import java.util.Optional;

/**
 * A kind of work on the outside world: a request to a desk, a mail. It runs outside any transaction, on a thread of the
 * scheduler, as often as it asks for. It may be run twice for the same id when a node dies in the middle, so what it
 * does must bear that.
 */
public interface Errand {
    /** The name under which it is kept; never changes. */
    String name();

    /**
     * Does it once.
     *
     * @param id what it is done for
     * @return when to come again; empty when there is nothing left to do
     */
    Optional<Instant> run(String id);

    /** How many of its kind may be under way at once on a node; others come a moment later. So no kind can take all threads. */
    default int atOnce() {
        return 8;
    }
}
