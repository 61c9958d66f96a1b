package app.morvet.cases;

import app.morvet.core.alert.Severity;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An alert as its case knows it.
 *
 * @param atSettling the value when the case was settled while this was still up, or null
 */
public record CaseAlert(
        long alert,
        long caseId,
        long guard,
        Severity level,
        double value,
        double worst,
        Instant raisedAt,
        @Nullable Instant clearedAt,
        @Nullable Double atSettling) {
    public boolean up() {
        return clearedAt == null;
    }
}
