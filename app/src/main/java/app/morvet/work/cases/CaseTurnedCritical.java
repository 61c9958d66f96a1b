package app.morvet.work.cases;

import java.time.Instant;

/** A case opened as critical, became so, or came back so. */
public record CaseTurnedCritical(long caseId, Instant at) {}
