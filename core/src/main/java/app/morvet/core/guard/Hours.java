package app.morvet.core.guard;

import app.morvet.core.readings.Micros;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * When a guard applies: on some days of the week, from a time of day until just before another. Where {@code to} is not
 * after {@code from} it goes past midnight, and the part after midnight belongs to the day on which it began.
 *
 * @param days at least one
 * @param zone in which days and times are meant; right across changes of daylight saving
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

    /** The instants after {@code from} and not after {@code to} at which it may begin or end to apply. */
    void eachEdge(long fromMicros, long toMicros, java.util.function.LongConsumer edge) {
        var day = Micros.instant(fromMicros).atZone(zone).toLocalDate();
        while (true) {
            long start = Micros.of(day.atTime(from).atZone(zone).toInstant());
            long end = Micros.of(day.atTime(to).atZone(zone).toInstant());
            if (Math.min(start, end) > toMicros) return;
            for (long one : new long[] {start, end}) if (one > fromMicros && one <= toMicros) edge.accept(one);
            day = day.plusDays(1);
        }
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
