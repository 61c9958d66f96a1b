package app.morvet.sources.outposts;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An outpost as it stands.
 *
 * @param component  the host that it is on, by its id
 * @param wanted     the brief that it is wanted to have, by its version; empty before it was ever asked for
 * @param wantedAt   since when
 * @param said       what it said of itself last; null while it was never heard
 * @param spool      which of its spools was heard last, and {@code takenTo} how far of it was taken
 */
public record Outpost(
        long id,
        String name,
        long component,
        long feed,
        Instant madeAt,
        @Nullable Instant revokedAt,
        String wanted,
        @Nullable Instant wantedAt,
        boolean lookAgain,
        @Nullable Said said,
        String spool,
        long takenTo) {
    /** Not heard for so long, it is silent. */
    public static final Duration SILENT_AFTER = Duration.ofSeconds(30);

    /** More than so much its clock differs from Morvet's only if something is wrong. */
    private static final Duration SKEW = Duration.ofSeconds(5);

    /**
     * @param brief   in force, by its version
     * @param briefAt since when
     * @param skew    by how much its clock is ahead of Morvet's
     * @param waiting how much it has yet to tell
     * @param dropped how much of that it had to give up, since it was put there
     * @param offers  what it can measure there
     * @param may     what its own file allows, a line each
     * @param actions that its own file names
     * @param faults  what it cannot do of its brief, and why
     */
    public record Said(
            Instant at,
            String program,
            String host,
            String system,
            String brief,
            @Nullable Instant briefAt,
            Duration skew,
            long waiting,
            long dropped,
            List<String> offers,
            List<String> may,
            List<Action> actions,
            List<String> faults) {}

    /**
     * Something that it may be asked to do.
     *
     * @param of        the component that it is done to, by its key; empty where it is the host
     * @param right     that who asks it must have
     * @param arguments by name, each with the values that it may have
     */
    public record Action(String name, String of, String right, List<Argument> arguments) {}

    public record Argument(String name, List<String> values) {}

    public boolean isSilent(Instant now) {
        return said == null || said.at().plus(SILENT_AFTER).isBefore(now);
    }

    /** Whether what it is to look at is what it looks at. */
    public boolean inForce() {
        return said != null && said.brief().equals(wanted);
    }

    public boolean isClockOff() {
        return said != null && said.skew().abs().compareTo(SKEW) > 0;
    }
}
