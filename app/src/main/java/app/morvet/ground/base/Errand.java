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

    /**
     * Whether there is something to do after all. Asked once it has ended with nothing left: what somebody wanted while it
     * was ending could not be put down beside it, and must not be lost. What makes it wanted and this answer must exclude
     * each other, such as by a lock on a row.
     */
    default boolean wanted(String id) {
        return false;
    }
}
