package app.morvet.work.handoffs;

import app.morvet.core.handoff.HandoffState;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A case on its way to its owning team.
 *
 * @param id        also the idempotency key: however often it is sent, the desk makes one ticket of it
 * @param body      the JSON that is sent, as filled when it was handed off
 * @param ticket    the desk's number for it; empty until it is known
 * @param deskState what the desk said last; null where it has said nothing yet
 * @param reason    why it was returned; empty otherwise
 * @param madeBy    who handed it off, by id; null where a rule did
 * @param firstTry  when it was first tried to send it, or null
 * @param nextTry   when it is tried next, or null
 * @param failures  how many tries have failed since it was last put on its way
 * @param lastError why the last one failed; empty after a success
 */
record Handoff(
        UUID id,
        long caseId,
        long team,
        long connection,
        String title,
        String story,
        String body,
        HandoffState state,
        @Nullable HandoffState deskState,
        String ticket,
        String reason,
        Instant madeAt,
        @Nullable Long madeBy,
        Instant changedAt,
        @Nullable Instant firstTry,
        @Nullable Instant nextTry,
        int failures,
        String lastError) {}
