package app.morvet.work.orders;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Something asked of a scheduler.
 *
 * @param run   the scheduler's own name for the run that it is about; empty where it is about the job
 * @param words why it was refused or given up; empty while neither
 */
public record Order(
        long id,
        long component,
        String run,
        Kind kind,
        Instant at,
        long by,
        State state,
        String words,
        int tries,
        @Nullable Instant doneAt) {

    /** What is asked. */
    public enum Kind {
        RERUN("run again"),
        HOLD("hold"),
        RELEASE("release"),
        KILL("kill");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** As the scheduler is told. */
        String key() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /** What came of it. */
    public enum State {
        WAITING("asked"),
        DONE("done"),
        REFUSED("refused"),
        GIVEN_UP("given up");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }
}
