package app.morvet.core.batch;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * Which days are holidays. A working day is neither Saturday nor Sunday nor one of them.
 *
 * @param name what it is called
 * @param holidays by day, with their names
 */
public record HolidayCalendar(String name, SortedMap<LocalDate, String> holidays) {
    /** Without holidays. */
    public static final HolidayCalendar NONE = new HolidayCalendar("no holidays", new TreeMap<>());

    public HolidayCalendar {
        holidays = java.util.Collections.unmodifiableSortedMap(new TreeMap<>(holidays));
    }

    public boolean holiday(LocalDate day) {
        return holidays.containsKey(day);
    }

    public boolean working(LocalDate day) {
        return day.getDayOfWeek() != DayOfWeek.SATURDAY && day.getDayOfWeek() != DayOfWeek.SUNDAY && !holiday(day);
    }

    /** The day itself, or the first working day after it. */
    public LocalDate workingFrom(LocalDate day) {
        var found = day;
        while (!working(found)) found = found.plusDays(1);
        return found;
    }

    /**
     * A working day of the month that {@code month} lies in.
     *
     * @param nth from 1 for the first, from -1 for the last; not 0
     * @return null where the month has not so many
     */
    public @org.jspecify.annotations.Nullable LocalDate nthWorking(LocalDate month, int nth) {
        int step = nth > 0 ? 1 : -1;
        int left = Math.abs(nth);
        for (int day = nth > 0 ? 1 : month.lengthOfMonth(); day >= 1 && day <= month.lengthOfMonth(); day += step)
            if (working(month.withDayOfMonth(day)) && --left == 0) return month.withDayOfMonth(day);
        return null;
    }
}
