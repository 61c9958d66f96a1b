package app.morvet.core.windows;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What those concerned are told of a window: that one of its times comes, is at another time, does not come; that it has begun, goes on
 * until another end, is over. Reckoned anew from what was told last, so that it does not matter when anybody looks: a time is told of
 * at most once for each thing that there is to tell, and what comes back on its word is told of.
 */
public final class Telling {
    private Telling() {}

    /** What is told of one time. */
    public enum Said {
        /** It will be. */
        COMES,
        /** It will be, at another time than was said. */
        MOVED,
        /** It will not be, though it was said that it would. */
        OFF,
        /** It has begun. */
        BEGINS,
        /** It is on, and ends at another time than was said. */
        LASTS,
        /** It is over. */
        ENDS;

        /** Whether there is nothing left to tell of that time. */
        public boolean last() {
            return this == OFF || this == ENDS;
        }

        private boolean on() {
            return this == BEGINS || this == LASTS;
        }
    }

    /**
     * What was told last of one time of a window.
     *
     * @param meant by which that time is known ({@link Plan.Occurrence#meant()})
     * @param span  when it was said to be
     */
    public record Told(LocalDateTime meant, Said said, Plan.Span span) {}

    /**
     * What there is to tell by now; each replaces what was told of that time before.
     *
     * @param plan   null where the window is not there any more
     * @param before how long before its begin a time is told of; zero for at its begin only
     * @param told   what was told last of each time, but for what was the last of it
     */
    public static List<Told> due(@Nullable Plan plan, Duration before, List<Told> told, Instant now) {
        var times = new HashMap<LocalDateTime, Plan.Span>();
        if (plan != null) {
            // A window that is once is the same one at another begin, by whichever it was told of.
            if (plan.recurs() || told.isEmpty())
                for (var one : plan.occurrences(now, now.plus(before).plusNanos(1000)))
                    times.merge(one.meant(), one.span(), Telling::sooner);
            for (var one : told) find(plan, one).ifPresent(it -> times.putIfAbsent(one.meant(), it));
        }
        var due = new ArrayList<Told>();
        for (var one : told) {
            var said = after(one, times.remove(one.meant()), now);
            if (said != null) due.add(said);
        }
        times.forEach((meant, span) -> {
            if (span.has(now)) due.add(new Told(meant, Said.BEGINS, span));
            else if (span.from().isAfter(now) && !span.from().minus(before).isAfter(now))
                due.add(new Told(meant, Said.COMES, span));
        });
        due.sort(Comparator.comparing((Told one) -> one.span().from()).thenComparing(Told::meant));
        return due;
    }

    /** In an hour that there is twice, a rhythm of every hour gives one begin twice. */
    private static Plan.Span sooner(Plan.Span one, Plan.Span other) {
        return one.from().isBefore(other.from()) ? one : other;
    }

    /** That time as it stands now, wherever it was moved. */
    private static Optional<Plan.Span> find(Plan plan, Told told) {
        var moved = plan.altered().get(told.meant());
        if (moved != null) return Optional.of(moved);
        if (!plan.recurs()) {
            var first = Objects.requireNonNull(plan.first());
            return Optional.of(new Plan.Span(first, first.plus(plan.length())));
        }
        return plan.occurrences(told.span().from(), told.span().to().plusNanos(1000)).stream()
                .filter(one -> one.meant().equals(told.meant()))
                .map(Plan.Occurrence::span)
                .findFirst();
    }

    private static @Nullable Told after(Told told, Plan.@Nullable Span span, Instant now) {
        if (told.said().on()) {
            if (span == null || !span.to().isAfter(now)) {
                var end = span == null || span.to().isAfter(now) ? now : span.to();
                return new Told(told.meant(), Said.ENDS, told.span().endedAt(end));
            }
            return span.to().equals(told.span().to()) ? null : new Told(told.meant(), Said.LASTS, span);
        }
        if (span == null) return new Told(told.meant(), Said.OFF, told.span());
        if (span.has(now)) return new Told(told.meant(), Said.BEGINS, span);
        // It began and ended while nobody looked.
        if (!span.to().isAfter(now)) return new Told(told.meant(), Said.ENDS, span);
        return span.equals(told.span()) ? null : new Told(told.meant(), Said.MOVED, span);
    }
}
