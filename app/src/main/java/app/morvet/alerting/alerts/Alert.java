package app.morvet.alerting.alerts;

import app.morvet.core.alert.About;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Severity;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An alert as it is stored: what a machine knows, from raised to over.
 *
 * @param subject    what of the component it speaks of, by an id that its origin knows: a series, a failure family; or null
 * @param level      its severity, and the last one when it is over
 * @param worst      the worst value since it was raised
 * @param clearedAt  since when it is over, or null
 * @param flaps      whether it comes and goes
 * @param held       whether something covers it, so that it is nobody's work
 * @param words      what is wrong, in one line; the last that was said when it is over
 * @param worstWords what was wrong when it was at its worst
 */
public record Alert(
        long id,
        Origin origin,
        About about,
        @Nullable Long subject,
        Severity level,
        double value,
        double worst,
        Instant raisedAt,
        @Nullable Instant clearedAt,
        boolean flaps,
        boolean held,
        String words,
        String worstWords) {
    public boolean up() {
        return clearedAt == null;
    }
}
