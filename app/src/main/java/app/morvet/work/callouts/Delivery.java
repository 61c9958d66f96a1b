package app.morvet.work.callouts;

import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * One telling of one team about one case.
 *
 * @param about    what it tells
 * @param failures how many tries have failed
 */
record Delivery(
        UUID id,
        long caseId,
        long team,
        About about,
        String recipient,
        String subject,
        String body,
        State state,
        Instant madeAt,
        @Nullable Instant sentAt,
        @Nullable Instant firstTry,
        @Nullable Instant nextTry,
        int failures,
        String lastError) {
    enum About {
        OPENED,
        OVER
    }

    enum State {
        WAITING("waiting"),
        SENT("sent"),
        GIVEN_UP("not delivered");

        private final String words;

        State(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }
}
