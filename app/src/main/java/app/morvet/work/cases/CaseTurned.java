package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import java.time.Instant;

/** An alert of a severity came up in a case, or rose to it, or the case came back with it; told within the transaction. */
public record CaseTurned(long caseId, Severity severity, Instant at) {}
