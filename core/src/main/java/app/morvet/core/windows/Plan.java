package app.morvet.core.windows;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * When a window is: once, or again and again, as the clock on the wall of its zone shows it. Each time lasts its length in elapsed
 * time, right across a change of the clock.
 *
 * <p>A begin in the hour that a clock put forward leaves out is as much later as the clock was put forward; one in the hour that
 * is there twice is meant the first time (RFC 5545, section 3.3.5). Only what recurs in every hour goes on through both.
 *
 * @param first   when it begins, where it is once; else null
 * @param again   when it begins, where it recurs; else null
 * @param zone    in whose time
 * @param length  how long each time is, a minute to two weeks
 * @param until   the last day on which one may begin, where it recurs; null for ever
 * @param skipped begins, as the rhythm gives them, that are left out
 * @param altered other times for some begins, as the rhythm gives them: moved, or ended sooner or later
 */
public record Plan(
        @Nullable Instant first,
        @Nullable Rhythm again,
        ZoneId zone,
        Duration length,
        @Nullable LocalDate until,
        SortedSet<LocalDateTime> skipped,
        Map<LocalDateTime, Span> altered) {
    public static final Duration LONGEST = Duration.ofDays(14);
    private static final int YEARS_AHEAD = 9;
    private static final int MOST_ALTERED = 500;

    /** A time, half-open. */
    public record Span(Instant from, Instant to) {
        /** @throws IllegalArgumentException where it is shorter than a minute or longer than two weeks */
        public Span {
            var length = Duration.between(from, to);
            if (length.compareTo(Duration.ofMinutes(1)) < 0)
                throw new IllegalArgumentException("a window must end after it has begun, by a minute at least");
            if (length.compareTo(LONGEST) > 0)
                throw new IllegalArgumentException("a window is at most %d days long".formatted(LONGEST.toDays()));
        }

        public boolean has(Instant at) {
            return !at.isBefore(from) && at.isBefore(to);
        }

        public boolean meets(Instant from, Instant to) {
            return this.from.isBefore(to) && this.to.isAfter(from);
        }

        /** The same with its end at another time; one that would end within its first minute lasts that minute. */
        public Span endedAt(Instant end) {
            var least = from.plus(Duration.ofMinutes(1));
            return new Span(from, end.isBefore(least) ? least : end);
        }
    }

    /**
     * One time of it.
     *
     * @param meant the begin as the rhythm gives it, by which this time is known; where it is once, the begin itself
     */
    public record Occurrence(LocalDateTime meant, Span span) {}

    public Plan {
        if ((first == null) == (again == null))
            throw new IllegalArgumentException("a window is either once or begins again and again");
        if (again == null && (until != null || !skipped.isEmpty() || !altered.isEmpty()))
            throw new IllegalArgumentException(
                    "only what recurs has an end of its series and times that are otherwise");
        if (skipped.size() + altered.size() > MOST_ALTERED)
            throw new IllegalArgumentException("at most 500 single times are otherwise");
        new Span(Instant.EPOCH, Instant.EPOCH.plus(length));
        skipped = Collections.unmodifiableSortedSet(new TreeSet<>(skipped));
        altered = Collections.unmodifiableMap(new TreeMap<>(altered));
    }

    public static Plan once(Instant from, Instant to, ZoneId zone) {
        var span = new Span(from, to);
        return new Plan(from, null, zone, Duration.between(span.from(), span.to()), null, new TreeSet<>(), Map.of());
    }

    public static Plan again(Rhythm rhythm, ZoneId zone, Duration length) {
        return new Plan(null, rhythm, zone, length, null, new TreeSet<>(), Map.of());
    }

    public Plan until(@Nullable LocalDate last) {
        return new Plan(first, again, zone, length, last, skipped, altered);
    }

    /** Leaves one time out. */
    public Plan without(LocalDateTime meant) {
        var fewer = new TreeSet<>(skipped);
        fewer.add(meant);
        var others = new TreeMap<>(altered);
        others.remove(meant);
        return new Plan(first, again, zone, length, until, fewer, others);
    }

    /** Has one time be at another, shorter or longer. Where it is once, all of it is. */
    public Plan with(LocalDateTime meant, Span span) {
        if (again == null) return once(span.from(), span.to(), zone);
        var others = new TreeMap<>(altered);
        others.put(meant, span);
        return new Plan(first, again, zone, length, until, skipped, others);
    }

    public boolean recurs() {
        return again != null;
    }

    /** The times of it that have to do with a half-open span, in order of their begins. */
    public List<Occurrence> occurrences(Instant from, Instant to) {
        if (!from.isBefore(to)) return List.of();
        var found = new ArrayList<Occurrence>();
        if (again == null) {
            var begin = java.util.Objects.requireNonNull(first);
            found.add(new Occurrence(LocalDateTime.ofInstant(begin, zone), new Span(begin, begin.plus(length))));
        } else {
            // A begin is on its day or, where the clock is changed at midnight, the day beside it.
            var firstDay = LocalDate.ofInstant(from.minus(length), zone).minusDays(1);
            var lastDay = LocalDate.ofInstant(to, zone).plusDays(1);
            if (until != null && until.isBefore(lastDay)) lastDay = until;
            for (var meant : again.begins(firstDay, lastDay)) {
                if (skipped.contains(meant) || altered.containsKey(meant)) continue;
                for (var begin : instants(meant)) found.add(new Occurrence(meant, new Span(begin, begin.plus(length))));
            }
            altered.forEach((meant, span) -> found.add(new Occurrence(meant, span)));
        }
        found.removeIf(one -> !one.span().meets(from, to));
        found.sort(Comparator.comparing((Occurrence one) -> one.span().from()).thenComparing(Occurrence::meant));
        return List.copyOf(found);
    }

    private List<Instant> instants(LocalDateTime meant) {
        var offsets = zone.getRules().getValidOffsets(meant);
        if (offsets.size() < 2 || again == null || !again.everyHour())
            return List.of(meant.atZone(zone).toInstant());
        return offsets.stream().map(meant::toInstant).sorted().toList();
    }

    /** Those that are over after an instant, in order: the one that is on first. At most so many, and of what recurs within nine years. */
    public List<Occurrence> next(Instant after, int most) {
        if (first != null) {
            var one = new Span(first, first.plus(length));
            return one.to().isAfter(after) && most > 0
                    ? List.of(new Occurrence(LocalDateTime.ofInstant(first, zone), one))
                    : List.of();
        }
        var found = new ArrayList<Occurrence>();
        var end = after.atZone(zone).plusYears(YEARS_AHEAD).toInstant();
        var from = after;
        for (int days = 2; found.size() < most && from.isBefore(end); days *= 3) {
            var to = from.plus(Duration.ofDays(days));
            var begun = from;
            for (var one : occurrences(from, to))
                // One that reaches over was found with the span before.
                if (begun.equals(after) || !one.span().from().isBefore(begun)) found.add(one);
            from = to;
        }
        return found.size() <= most ? List.copyOf(found) : List.copyOf(found.subList(0, most));
    }

    public boolean isOver(Instant now) {
        return next(now, 1).isEmpty();
    }
}
