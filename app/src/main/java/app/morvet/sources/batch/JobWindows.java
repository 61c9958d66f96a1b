package app.morvet.sources.batch;

import app.morvet.core.batch.Job;
import app.morvet.core.windows.Plan;
import java.time.Instant;
import java.util.List;

/** Windows in which starts of jobs are not expected, by whoever keeps them. */
public interface JobWindows {
    /** A time in which a job is in a window. */
    record InWindow(String window, Plan.Span span) {}

    /** The windows of a span, looked up once and asked for job by job. */
    interface Within {
        /** When a job is in any window, in no order. */
        List<InWindow> of(Job job);

        default boolean has(Job job, Instant at) {
            return of(job).stream().anyMatch(one -> one.span().has(at));
        }
    }

    /** Those that have to do with a half-open span. */
    Within within(Instant from, Instant to);
}
