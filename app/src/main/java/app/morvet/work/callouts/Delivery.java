package app.morvet.work.callouts;

import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * One mail to a team, or to others, about something that has a page.
 *
 * @param of       what it is about
 * @param team     to which team; null where it is to no team of ours
 * @param person   to whom of it; null where it is to an address that is nobody's own
 * @param by       who wrote it, by id; null where Morvet did by itself
 * @param about    what it tells
 * @param failures how many tries have failed
 */
public record Delivery(
        UUID id,
        Of of,
        @Nullable Long team,
        @Nullable Long person,
        @Nullable Long by,
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

    /** What a mail is about. */
    public sealed interface Of {
        record Case(long id) implements Of {}

        record Window(long id) implements Of {}

        /** A vendor's instance. */
        record Vendor(long component) implements Of {}
    }

    /** What it tells. */
    public enum About {
        OPENED,
        /** That what is theirs is held up by it. */
        EXPLAINS,
        OVER,
        WINDOW,
        VENDOR
    }

    public enum State {
        WAITING("waiting"),
        SENT("sent"),
        GIVEN_UP("not delivered");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** A new one, to be sent from an instant on. */
    public static Delivery fresh(
            Of of,
            @Nullable Long team,
            @Nullable Long by,
            About about,
            String recipient,
            String subject,
            String body,
            Instant at,
            Instant due) {
        return new Delivery(
                UUID.randomUUID(),
                of,
                team,
                null,
                by,
                about,
                recipient,
                subject,
                body,
                State.WAITING,
                at,
                null,
                null,
                due,
                0,
                "");
    }

    /** The same, to one person of the team. */
    Delivery to(@Nullable Long one) {
        return new Delivery(
                id, of, team, one, by, about, recipient, subject, body, state, madeAt, sentAt, firstTry, nextTry,
                failures, lastError);
    }

    /** The case that it is about; null where it is about something else. */
    @Nullable
    Long caseId() {
        return of instanceof Of.Case one ? one.id() : null;
    }
}
