package app.morvet.work.cases;

import java.time.Instant;

/** A case needs nobody any more: all its alerts have cleared, or somebody settled it. */
public record CaseOver(long caseId, Instant at) {}
