package app.morvet.alerting.alerts;

import java.time.Duration;
import java.time.Instant;

/**
 * Over what time the curve of an alert is drawn: to an hour after its end, or to now; a day at most.
 *
 * @param begin when the trouble began
 */
public record DrawnSpan(Instant begin, Instant to) {
    private static final Duration LONGEST = Duration.ofHours(24);

    public static DrawnSpan of(Alert alert, Instant firstSeen, Instant now) {
        var cleared = alert.clearedAt();
        var to = cleared == null || cleared.plus(Duration.ofHours(1)).isAfter(now)
                ? now
                : cleared.plus(Duration.ofHours(1));
        return new DrawnSpan(firstSeen.isBefore(alert.raisedAt()) ? firstSeen : alert.raisedAt(), to);
    }

    /** From so long before the trouble, but not more than a day before the end. */
    public Instant from(Duration before) {
        var from = begin.minus(before);
        var longest = to.minus(LONGEST);
        return from.isAfter(longest) ? from : longest;
    }
}
