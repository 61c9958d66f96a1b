package app.morvet.work.handoffs;

import java.time.Instant;
import java.util.UUID;

/** A case was handed off to a team; told within the transaction. */
public record HandoffMade(UUID id, long caseId, Instant at) {}
