package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * One telling of somebody, about something that has a page.
 *
 * @param of       what it is about
 * @param to       who is told, and how
 * @param by       who wrote it, by id; null where Morvet did by itself
 * @param about    what it tells
 * @param turn     by which step of a rule; null where by none
 * @param body     of a mail
 * @param html     the same; empty where it is made of that as it is sent
 * @param brief    of a text message; empty where that bears the subject
 * @param failures how many tries have failed by the way that it goes now
 */
public record Delivery(
        UUID id,
        Of of,
        To to,
        @Nullable Long by,
        About about,
        @Nullable Turn turn,
        String subject,
        String body,
        String html,
        String brief,
        State state,
        Instant madeAt,
        @Nullable Instant sentAt,
        @Nullable Instant firstTry,
        @Nullable Instant nextTry,
        int failures,
        String lastError,
        String outsideId) {

    /** What it is about. */
    public sealed interface Of {
        record Case(long id) implements Of {}

        record Window(long id) implements Of {}

        /** A vendor's instance. */
        record Vendor(long component) implements Of {}

        /** A rule that is tried. */
        record Rule(long id) implements Of {}

        /** What a shift gives the next. */
        record Handover(long id) implements Of {}

        /** Whether somebody is reached where they say; told at once or not at all, and never kept. */
        record Reach(long person) implements Of {}
    }

    /** A way with an address: a mail address, a telephone number, the name of what is outside. */
    public record Hop(Way way, String address, @Nullable Long connection) {
        static Hop mail(String address) {
            return new Hop(Way.MAIL, address, null);
        }
    }

    /**
     * @param team    whose it is; null where it is no team's of ours
     * @param person  null where the address is nobody's own
     * @param hop     how it goes now
     * @param further how it goes should that fail, in order
     */
    public record To(@Nullable Long team, @Nullable Long person, Hop hop, List<Hop> further) {
        public static To mail(@Nullable Long team, String address) {
            return new To(team, null, Hop.mail(address), List.of());
        }
    }

    /** A step of a rule at work. */
    public record Turn(long course, int step, int round, String who) {}

    /** What it tells. */
    public enum About {
        OPENED,
        LATE,
        RETURNED,
        /** That the team that it was handed to does not accept it. */
        NOT_ACCEPTED,
        /** That nobody has taken it. */
        UNHEARD,
        /** That what is theirs is held up by it. */
        EXPLAINS,
        OVER,
        WINDOW,
        VENDOR,
        /** What a rule has gathered. */
        DIGEST,
        /** That people can be called. */
        SIGN,
        /** That a rule is tried. */
        TEST,
        /** What a rule tells of that is no case. */
        NEWS;

        /** Whether whoever is told is to take a case. */
        boolean isToTake() {
            return this == OPENED || this == LATE || this == RETURNED || this == NOT_ACCEPTED;
        }
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
            To to,
            @Nullable Long by,
            About about,
            @Nullable Turn turn,
            String subject,
            String body,
            Instant at,
            Instant due) {
        return new Delivery(
                UUID.randomUUID(),
                of,
                to,
                by,
                about,
                turn,
                subject,
                body,
                "",
                "",
                State.WAITING,
                at,
                null,
                null,
                due,
                0,
                "",
                "");
    }

    /** A mail to a team, or to others. */
    public static Delivery mail(
            Of of,
            @Nullable Long team,
            @Nullable Long by,
            About about,
            String recipient,
            String subject,
            String body,
            Instant at,
            Instant due) {
        return fresh(of, To.mail(team, recipient), by, about, null, subject, body, at, due);
    }

    /** With its words as HTML, and as a text message, too. */
    Delivery inWords(String words, String shorter) {
        return new Delivery(
                id, of, to, by, about, turn, subject, body, words, shorter, state, madeAt, sentAt, firstTry, nextTry,
                failures, lastError, outsideId);
    }

    public String recipient() {
        return to.hop().address();
    }

    /** The case that it is about; null where it is about something else. */
    @Nullable
    Long caseId() {
        return of instanceof Of.Case one ? one.id() : null;
    }
}
