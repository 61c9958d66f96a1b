package app.morvet.work.cases;

import java.time.Instant;

/** A case explains trouble of another component, which has joined it; told within the transaction. */
public record CaseExplains(long caseId, long component, Instant at) {}
