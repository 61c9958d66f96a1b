package app.morvet.work.cases;

import java.time.Instant;

/** A case is there that was not, or is again; told within the transaction. */
public record CaseOpened(long caseId, Instant at) {}
