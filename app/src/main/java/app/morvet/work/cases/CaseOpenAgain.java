package app.morvet.work.cases;

import java.time.Instant;

/** Somebody took back that a case was settled. Published inside the transaction that does it. */
public record CaseOpenAgain(long caseId, Instant at) {}
