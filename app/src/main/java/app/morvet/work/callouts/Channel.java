package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.connections.Unanswered;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;

/** How somebody is told, by a way or some; a bean for each. */
interface Channel {
    Set<Way> ways();

    /**
     * Tells it, outside of any transaction. Each try of one delivery bears the same id, so that one that is told once more after a crash
     * can be known by it.
     *
     * @param more what else the same person is told with it, of what is theirs to take
     * @param at   when it says that it was sent
     * @return what it is called where it was sent; empty where it has no name there
     */
    String send(Delivery delivery, List<Delivery> more, Instant at) throws Undelivered, InterruptedException;

    /** It was not taken. */
    final class Undelivered extends Exception {
        private static final long serialVersionUID = 1;
        private final boolean lasting;
        private final Duration asksToWait;

        /** @param lasting whether trying again cannot help until somebody changes something */
        Undelivered(String words, boolean lasting) {
            super(words);
            this.lasting = lasting;
            this.asksToWait = Duration.ZERO;
        }

        Undelivered(Unanswered none) {
            super(none.words());
            this.lasting = none.lasting();
            this.asksToWait = none.asksToWait();
        }

        /** How long the way wants not to be asked again; zero where it does not say. */
        Duration asksToWait() {
            return asksToWait;
        }

        String words() {
            return String.valueOf(getMessage());
        }

        boolean lasting() {
            return lasting;
        }
    }
}
