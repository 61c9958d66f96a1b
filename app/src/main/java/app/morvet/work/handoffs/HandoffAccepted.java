package app.morvet.work.handoffs;

import java.time.Instant;

/** The team that a case was handed to has accepted it, or is done with it; told within the transaction. */
public record HandoffAccepted(long caseId, Instant at) {}
