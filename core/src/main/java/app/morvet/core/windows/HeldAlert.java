package app.morvet.core.windows;

import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An alert that was raised in a window, and is up. What becomes of it is reckoned from what is stored and from the windows as they
 * stand now, not from what happened to them: so however they overlap, are edited, end early or are forgotten by a crash, an alert
 * that nothing covers any more is never held on.
 *
 * @param component on which it shows
 * @param until     the end, as it was last seen, of what covered it
 * @param paused    whether checks were paused in it
 * @param standsOnPast whether it counts what has happened, so that it stays up though nothing is wrong any more
 * @param heardAt   when what it is about was last heard of; null for never
 */
public record HeldAlert(
        Scope.Facts component, Instant until, boolean paused, boolean standsOnPast, @Nullable Instant heardAt) {
    /** So long after a window in which checks were paused nothing is known until it was looked at again. */
    public static final Duration LOOKED_WITHIN = Duration.ofMinutes(5);

    /** What becomes of it. */
    public enum Fate {
        /** A window covers it. */
        HELD,
        /** Its window is over, and it is not known yet how things are. */
        LOOKED_AT,
        /** It is work from now on. */
        RELEASED,
        /** It is up because of what happened inside and no more, and is work once it grows. */
        RESTS
    }

    public Fate fate(Cover windows, Instant now) {
        if (windows.of(component, now).isPresent()) return Fate.HELD;
        boolean heard = heardAt != null && heardAt.isAfter(until);
        if (paused && !heard && now.isBefore(until.plus(LOOKED_WITHIN))) return Fate.LOOKED_AT;
        return standsOnPast ? Fate.RESTS : Fate.RELEASED;
    }
}
