package app.morvet.core.guard;

import app.morvet.core.readings.Micros;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;

/**
 * When a guard applies: on some days of the week, from a time of day until just before another. Where {@code to} is not
 * after {@code from} it goes past midnight, and the part after midnight belongs to the day on which it began.
 *
 * @param days at least one
 * @param zone in which days and times are meant. It applies while the clock of this zone shows such a time: a time that
 *     the change to summer time leaves out is not waited for, and an hour that comes twice counts twice
 */
public record Hours(Set<DayOfWeek> days, LocalTime from, LocalTime to, ZoneId zone) {
    public Hours {
        if (days.isEmpty()) throw new IllegalArgumentException("choose at least one day on which the guard applies");
        days = Set.copyOf(days);
    }

    public boolean apply(Instant at) {
        var local = at.atZone(zone);
        var time = local.toLocalTime();
        if (from.isBefore(to)) return days.contains(local.getDayOfWeek()) && !time.isBefore(from) && time.isBefore(to);
        return !time.isBefore(from)
                ? days.contains(local.getDayOfWeek())
                : time.isBefore(to) && days.contains(local.getDayOfWeek().minus(1));
    }

    /**
     * The instants after {@code from} and not after {@code to} at which it may begin or end to apply: whenever the clock
     * shows one of its two times, twice where an hour comes twice, and wherever the clock is put forward or back, since it
     * may be put over one of them.
     */
    void eachEdge(long fromMicros, long toMicros, LongConsumer edge) {
        LongConsumer inside = one -> {
            if (one > fromMicros && one <= toMicros) edge.accept(one);
        };
        var first = Micros.instant(fromMicros);
        var last = Micros.instant(toMicros);
        var rules = zone.getRules();
        for (var change = rules.nextTransition(first);
                change != null && !change.getInstant().isAfter(last);
                change = rules.nextTransition(change.getInstant())) inside.accept(Micros.of(change.getInstant()));
        var end = last.atZone(zone).toLocalDate();
        for (var day = first.atZone(zone).toLocalDate(); !day.isAfter(end); day = day.plusDays(1))
            for (var time : new LocalTime[] {from, to})
                for (var offset : rules.getValidOffsets(day.atTime(time)))
                    inside.accept(Micros.of(day.atTime(time).toInstant(offset)));
    }

    /** The same as instants, in order. */
    public SortedSet<Instant> edges(Instant from, Instant to) {
        var edges = new TreeSet<Instant>();
        eachEdge(Micros.of(from), Micros.of(to), one -> edges.add(Micros.instant(one)));
        return edges;
    }

    /** {@code on weekdays from 06:00 to 22:00}; null is always. */
    public static String words(@Nullable Hours hours) {
        if (hours == null) return "at all times";
        var days = hours.days.equals(EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY))
                ? "on weekdays"
                : hours.days.size() == 7
                        ? "every day"
                        : "on "
                                + java.util.stream.Stream.of(DayOfWeek.values())
                                        .filter(hours.days::contains)
                                        .map(Hours::name)
                                        .collect(java.util.stream.Collectors.joining(", "));
        return hours.from.equals(hours.to) ? days : days + " from " + hours.from + " to " + hours.to;
    }

    private static String name(DayOfWeek day) {
        return day.getDisplayName(java.time.format.TextStyle.FULL, java.util.Locale.ENGLISH);
    }
}
