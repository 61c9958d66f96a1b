package app.morvet.work.cases;

import java.time.Instant;

/** The team that a case was handed to gave it back; told within the transaction. */
public record CaseReturned(long caseId, Instant at) {}
