package app.morvet.cases;

import app.morvet.alerts.AlertSource;
import app.morvet.core.alert.Severity;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An alert as its case knows it.
 *
 * @param atSettling the value when the case was settled while this was still up, or null
 * @param component  the component that it was raised on; null for one that is older than this is kept
 * @param flaps      whether it comes and goes
 * @param words      what is wrong, in one line
 * @param worstWords what was wrong when it was at its worst
 */
public record CaseAlert(
        long alert,
        long caseId,
        AlertSource source,
        @Nullable Long component,
        Severity level,
        double value,
        double worst,
        Instant raisedAt,
        @Nullable Instant clearedAt,
        @Nullable Double atSettling,
        boolean flaps,
        String words,
        String worstWords) {
    public boolean up() {
        return clearedAt == null;
    }
}
