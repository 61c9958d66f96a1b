package app.morvet.work.cases;

import java.time.Instant;

/**
 * A case is there that was not, or has heard of more; told within the transaction.
 *
 * @param component on which what is new shows
 */
public record CaseOpened(long caseId, long component, Instant at) {}
