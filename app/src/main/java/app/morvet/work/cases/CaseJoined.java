package app.morvet.work.cases;

import java.time.Instant;

/** A case turned out to be a part of another, in which it goes on; told within the transaction. */
public record CaseJoined(long caseId, long into, Instant at) {}
