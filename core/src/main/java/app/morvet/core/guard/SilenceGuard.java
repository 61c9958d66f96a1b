package app.morvet.core.guard;

import java.time.Duration;

/**
 * Watches that a series is heard as often as its feed promised. Its value is how many promised readings in a row have
 * not come; one counts as missed when it is half a cadence late.
 *
 * @param limits how many may be missed; above is bad
 */
public record SilenceGuard(Limits limits, Terms terms) implements Guard {
    public SilenceGuard {
        if (limits.side() != Side.ABOVE) throw new IllegalArgumentException("silence is counted above a limit");
        if (limits.mildest().low() < 0) throw new IllegalArgumentException("a limit of missed readings is 0 or more");
        var critical = limits.critical();
        if ((critical != null ? critical : limits.mildest()).low() >= SilenceCourse.MOST_MISSED)
            throw new IllegalArgumentException("a limit of missed readings is below " + SilenceCourse.MOST_MISSED);
    }

    /** How long after a reading the next one that was promised counts as missed: when it is half a cadence late. */
    public static Duration missedAfter(Duration cadence) {
        return cadence.multipliedBy(3).dividedBy(2);
    }

    @Override
    public Guard withLimits(Limits other) {
        return new SilenceGuard(other, terms);
    }

    @Override
    public Duration reach() {
        return Duration.ofHours(1);
    }
}
