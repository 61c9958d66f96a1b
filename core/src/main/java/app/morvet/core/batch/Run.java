package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * One run of a job, as far as it was told.
 *
 * @param id       by which it is known; in order of arrival
 * @param started  null where only its end was told
 * @param ended    null while it runs
 * @param end      how it ended; null while it runs
 * @param meant    the start that the scheduler says it is for, or null where it says nothing
 * @param trigger  why it started
 * @param exitCode null where none was told
 * @param records  how many it has worked on; null where that was not told
 * @param percent  how far it says it is, 0 to 100; null where it says nothing
 * @param percentAt when it said so
 */
public record Run(
        long id,
        @Nullable Instant started,
        @Nullable Instant ended,
        @Nullable End end,
        @Nullable Instant meant,
        Trigger trigger,
        @Nullable Integer exitCode,
        @Nullable Long records,
        @Nullable Double percent,
        @Nullable Instant percentAt) {

    /** How a run ended. */
    public enum End {
        FINE,
        /** Done, with something to look at. */
        WARNED,
        FAILED,
        CANCELLED;

        /** Whether what it should do is done. */
        public boolean done() {
            return this == FINE || this == WARNED;
        }
    }

    /** Why a run started. */
    public enum Trigger {
        SCHEDULE,
        /** The scheduler tries again by itself. */
        RETRY,
        /** Somebody asked for it. */
        BY_HAND
    }

    public Run {
        if (started == null && ended == null) throw new IllegalArgumentException("a run has a start or an end");
        if ((ended == null) != (end == null)) throw new IllegalArgumentException("a run that ended says how");
        if (percent != null && !(percent >= 0 && percent <= 100))
            throw new IllegalArgumentException("percent must be 0 to 100, was " + percent);
    }

    /** When it began to be: its start, or its end where no start was told. */
    public Instant at() {
        return started != null ? started : java.util.Objects.requireNonNull(ended);
    }

    public boolean running() {
        return ended == null;
    }

    public boolean done() {
        return end != null && end.done();
    }

    /** How long it took, or has taken by now; zero where no start was told or clocks disagree. */
    public Duration lasted(Instant now) {
        if (started == null) return Duration.ZERO;
        var span = Duration.between(started, ended == null ? now : ended);
        return span.isNegative() ? Duration.ZERO : span;
    }

    /** Whether how long it took is worth learning from. */
    public boolean teaches() {
        return started != null && ended != null && done() && !ended.isBefore(started);
    }

    /** The run as it was known at an instant; null where it had not begun. */
    public @Nullable Run asOf(Instant now) {
        if (at().isAfter(now)) return null;
        if (ended == null || !ended.isAfter(now)) return this;
        return new Run(id, started, null, null, meant, trigger, null, null, null, null);
    }
}
