package app.morvet.core.handoff;

import java.time.Duration;

/**
 * How long to wait before the next try: doubling from {@code first} to at most {@code longest}, until {@code patience} is
 * used up.
 *
 * @param first    wait after the first failure
 * @param longest  no wait is longer
 * @param patience after this long since the first try it is given up
 */
public record BackOff(Duration first, Duration longest, Duration patience) {

    /**
     * @param failures how many tries have failed, 1 or more
     */
    public Duration after(int failures) {
        if (failures < 1) throw new IllegalArgumentException("there is no wait before the first try");
        int doublings = Math.min(failures - 1, 30);
        var wait = first.multipliedBy(1L << doublings);
        return wait.compareTo(longest) > 0 ? longest : wait;
    }

    /** The same where whoever is asked says how long to wait: no less than one would. */
    public Duration after(int failures, Duration asked) {
        var wait = after(failures);
        return asked.compareTo(wait) > 0 ? asked : wait;
    }

    /** How many tries there are, all failing, until it is given up. */
    public int tries() {
        int failures = 1;
        for (var since = Duration.ZERO; !exhausted(since); failures++) since = since.plus(after(failures));
        return failures;
    }

    /** Whether to stop trying. */
    public boolean exhausted(Duration sinceFirstTry) {
        return sinceFirstTry.compareTo(patience) >= 0;
    }
}
