package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import app.morvet.sources.messages.MessageScope;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A case as it is stored.
 *
 * @param component    the one that causes the trouble
 * @param topic        what tells it apart from other trouble of that component, or null
 * @param severity     the worst level of its alerts that are up, or the last one when none is
 * @param respondBy    by when somebody should have it, as long as nobody has
 * @param firstSeen    when the first failure in it happened
 * @param lastSeen     when the latest did
 * @param failures     how many are folded into it
 * @param overSince    since when none of its alerts is up, or null
 * @param progress     where the work on it stands
 * @param version      counts the changes of its standing; what machines measure does not change it
 */
public record WorkCase(
        long id,
        long component,
        @Nullable Topic topic,
        Severity severity,
        String headline,
        Instant openedAt,
        Instant respondBy,
        Instant firstSeen,
        Instant lastSeen,
        long failures,
        @Nullable Instant overSince,
        Progress progress,
        int version) {

    public CaseState state() {
        return progress.state();
    }

    /** Which failed messages belong to it; those of its component where it is about something else. */
    public MessageScope scope() {
        return MessageScope.of(component, topic);
    }

    /** Whether it is about failed messages. */
    public boolean isAboutFailures() {
        return MessageScope.isTopic(topic);
    }

    public boolean settled() {
        return progress.state() == CaseState.SETTLED;
    }

    /** Waits for somebody: nobody has taken it, and no team. */
    public boolean nobodys() {
        return state() == CaseState.NEW && progress.takenBy() == null;
    }

    /** Nobody has it, though somebody should by now; what is over by itself waits for nobody. */
    public boolean late(Instant now) {
        return nobodys() && overSince == null && respondBy.isBefore(now);
    }

    public boolean isQuiet(Instant now) {
        var until = progress.quietUntil();
        return until != null && until.isAfter(now);
    }

    /**
     * Where the work on a case stands.
     *
     * @param takenBy      id of the person who has it, or null
     * @param quietUntil   until when it keeps quiet, or null
     * @param returned     whether the owning team gave it back and nobody has dealt with that yet
     * @param returnReason why; empty otherwise
     * @param settledAt    null while it is open
     * @param settleReason null while it is open
     */
    public record Progress(
            CaseState state,
            @Nullable Long takenBy,
            @Nullable Instant quietUntil,
            boolean returned,
            String returnReason,
            @Nullable Instant settledAt,
            @Nullable SettleReason settleReason) {

        static Progress fresh() {
            return new Progress(CaseState.NEW, null, null, false, "", null, null);
        }

        static Progress takenBy(long person) {
            return new Progress(CaseState.TAKEN, person, null, false, "", null, null);
        }

        Progress handedOffBy(@Nullable Long person) {
            return new Progress(CaseState.HANDED_OFF, takenBy == null ? person : takenBy, null, false, "", null, null);
        }

        Progress returnedFor(String reason) {
            var back = takenBy == null ? CaseState.NEW : CaseState.TAKEN;
            return new Progress(back, takenBy, null, true, reason, null, null);
        }

        Progress quietUntil(@Nullable Instant until) {
            return new Progress(state, takenBy, until, returned, returnReason, settledAt, settleReason);
        }

        Progress settled(SettleReason reason, Instant at) {
            return new Progress(CaseState.SETTLED, takenBy, null, false, "", at, reason);
        }
    }
}
