package app.morvet.core.batch;

import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A maintenance window over jobs: a planned time, once or again and again, in which none of them is expected to start. What
 * runs all the same is judged as ever.
 *
 * @param name  by which people know it; at most 100 letters
 * @param scope over which jobs it is
 * @param once  when it begins, where it is once; else null
 * @param again when it begins, where it recurs; else null
 * @param length how long it is in elapsed time, a minute to two weeks
 */
public record JobWindow(String name, Scope scope, @Nullable Instant once, @Nullable Timetable again, Duration length) {
    public static final Duration LONGEST = Duration.ofDays(14);

    /** A time in which it is, half-open. */
    public record Span(Instant from, Instant to) {
        public boolean has(Instant at) {
            return !at.isBefore(from) && at.isBefore(to);
        }
    }

    public JobWindow {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("a window has a name of at most 100 letters");
        if ((once == null) == (again == null))
            throw new IllegalArgumentException("a window is either once or begins again and again");
        if (length.compareTo(Duration.ofMinutes(1)) < 0)
            throw new IllegalArgumentException("a window must end after it has begun");
        if (length.compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("a window is at most %d days long".formatted(LONGEST.toDays()));
    }

    /** The times in which it is that have to do with a half-open span, in order; those that touch or overlap are one. */
    public List<Span> spans(Instant from, Instant to) {
        var begins = once != null
                ? List.of(once)
                : java.util.Objects.requireNonNull(again).starts(from.minus(length), to);
        var spans = new ArrayList<Span>();
        for (var begin : begins) {
            var end = begin.plus(length);
            if (!end.isAfter(from) || !begin.isBefore(to)) continue;
            if (!spans.isEmpty() && !spans.getLast().to().isBefore(begin))
                spans.set(spans.size() - 1, new Span(spans.getLast().from(), end));
            else spans.add(new Span(begin, end));
        }
        return List.copyOf(spans);
    }

    /** A job with so many starts inside. */
    public record Inside(String job, int starts) {}

    /** The starts of jobs inside a time of a window, by their own timetables; what only waits for others follows those. */
    public static List<Inside> inside(Span span, List<Job> jobs) {
        return jobs.stream()
                .map(job -> new Inside(
                        job.key(),
                        job.timetable().schedules().isEmpty()
                                ? 0
                                : job.timetable().starts(span.from(), span.to()).size()))
                .filter(one -> one.starts() > 0)
                .toList();
    }
}
