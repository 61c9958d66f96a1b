package app.morvet.sources.batch;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Events about runs and files were judged good. Published inside the transaction that acknowledges them.
 *
 * @param feed the feed that sent them
 */
public record RunsArrived(long feed, List<Told> runs, List<File> files) {
    /** What an event says of a run. */
    public enum What {
        STARTED,
        PROGRESS,
        FINISHED,
        CANCELLED
    }

    /** One event of a run, and the id of its job. */
    public record Told(long component, Said said) {}

    /**
     * What an event says of a run.
     *
     * @param run     the scheduler's own name for the run
     * @param at      when it happened
     * @param started of an end, when it had started where that is said; else null
     * @param meant   the start by the schedule that it is for, or null
     * @param trigger {@code schedule}, {@code retry} or {@code manual}
     * @param result  {@code fine}, {@code warning} or {@code failed} where the scheduler says so itself; else empty
     * @param output  the tail of what it wrote, or null
     * @param cut     whether the beginning of its output is missing
     */
    public record Said(
            What what,
            String run,
            Instant at,
            @Nullable Instant started,
            @Nullable Instant meant,
            String trigger,
            String node,
            @Nullable Integer exitCode,
            String result,
            @Nullable Long records,
            @Nullable Double percent,
            String reason,
            @Nullable String output,
            boolean cut) {}

    public record File(String name, Instant at) {}
}
