package app.morvet.core.sorting;

import java.time.Duration;
import java.time.Instant;

/**
 * For how long a repeat belongs to what failed before it.
 *
 * @param length from one failure to the next at most; from a minute to 30 days
 */
public record FoldWindow(Duration length) {
    public FoldWindow {
        if (length.compareTo(Duration.ofMinutes(1)) < 0 || length.compareTo(Duration.ofDays(30)) > 0)
            throw new IllegalArgumentException("repeats fold for 1 min to 30 days, not for " + length);
    }

    /** Whether a failure joins those whose latest was {@code last}; one that is told late joins as well. */
    public boolean joins(Instant last, Instant at) {
        return at.isBefore(last.plus(length));
    }

    /** Whether nothing can join any more. */
    public boolean over(Instant last, Instant now) {
        return !now.isBefore(last.plus(length));
    }
}
