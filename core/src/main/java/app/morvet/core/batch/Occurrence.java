package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One start that a job should make, and what became of it.
 *
 * @param index    its place in the {@link Night}
 * @param cycle    by which it is known: its start by the timetable, or that of the first job of its chain
 * @param planned  when it would start if all before it took as long as usual
 * @param plannedEnd when it would be done then
 * @param waits    the occurrences that it waits for, by index
 * @param released when all was there for it to start, or null
 * @param latest   by when it must have started, or null while it is not known
 * @param deadline by when it must be done, or null
 * @param usual    how long it usually lasts
 * @param runs     its attempts in order of time
 * @param heldUpBy what it still waits for, by key; empty where nothing
 */
public record Occurrence(
        int index,
        Job job,
        Instant cycle,
        Instant planned,
        Instant plannedEnd,
        List<Integer> waits,
        @Nullable Instant released,
        @Nullable Instant latest,
        @Nullable Instant deadline,
        Spread usual,
        List<Run> runs,
        Outcome outcome,
        List<String> heldUpBy) {

    /** The last attempt, or null. */
    public @Nullable Run last() {
        return runs.isEmpty() ? null : runs.getLast();
    }

    /** When its work was done, or null while it is not. */
    public @Nullable Instant doneAt() {
        var last = last();
        return last != null && last.done() ? last.ended() : null;
    }

    public Instant begins() {
        return runs.isEmpty() ? planned : runs.getFirst().at();
    }

    /** Whether it was done in less time, or with fewer records, than can be believed. */
    public boolean suspicious() {
        var last = last();
        if (last == null || !last.done() || last.started() == null) return false;
        if (last.lasted(last.ended()).compareTo(job.leastRun()) < 0) return true;
        return last.records() != null && last.records() < job.leastRecords();
    }

    /** How much longer than usual it has run by an instant; zero where it has not, or is over. */
    public Duration over(Instant now) {
        var last = last();
        if (last == null || !last.running() || !usual.known()) return Duration.ZERO;
        double over = last.lasted(now).toSeconds() - usual.median();
        return over <= 0 ? Duration.ZERO : Duration.ofSeconds((long) over);
    }
}
