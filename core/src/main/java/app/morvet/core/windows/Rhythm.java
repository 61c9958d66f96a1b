package app.morvet.core.windows;

import app.morvet.core.batch.CronExpression;
import app.morvet.core.batch.HolidayCalendar;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.Month;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import net.fortuna.ical4j.model.Recur;

/**
 * When something that recurs begins, as the clock on the wall shows it. {@link RhythmText} reads and writes the three kinds: on
 * days that people name, by a cron expression, by a recurrence rule.
 */
public sealed interface Rhythm {
    /**
     * The begins on some days, in order.
     *
     * @param last included
     */
    List<LocalDateTime> begins(LocalDate first, LocalDate last);

    /** Whether it goes on through the hour that is there twice when the clock is put back, instead of taking the first only. */
    default boolean everyHour() {
        return false;
    }

    /**
     * On days that people name, at one time of day.
     *
     * @param months in which; all where none is named
     * @param calendar of whose holidays
     * @param notOnHolidays whether a begin on a holiday is left out
     */
    record OnDays(DayRule days, Set<Month> months, LocalTime at, boolean notOnHolidays, HolidayCalendar calendar)
            implements Rhythm {
        public OnDays {
            months = months.isEmpty() ? Set.of() : Collections.unmodifiableSet(EnumSet.copyOf(months));
        }

        @Override
        public List<LocalDateTime> begins(LocalDate first, LocalDate last) {
            var begins = new ArrayList<LocalDateTime>();
            for (var day = first; !day.isAfter(last); day = day.plusDays(1)) {
                if (!months.isEmpty() && !months.contains(day.getMonth())) continue;
                if (notOnHolidays && calendar.holiday(day)) continue;
                if (days.has(day, calendar)) begins.add(day.atTime(at));
            }
            return begins;
        }
    }

    /** By a cron expression. */
    record ByCron(CronExpression expression) implements Rhythm {
        @Override
        public List<LocalDateTime> begins(LocalDate first, LocalDate last) {
            var begins = new ArrayList<LocalDateTime>();
            var times = expression.times();
            for (var day = first; !day.isAfter(last); day = day.plusDays(1))
                if (expression.fits(day)) for (var time : times) begins.add(day.atTime(time));
            return begins;
        }

        @Override
        public boolean everyHour() {
            return expression.everyHour();
        }
    }

    /**
     * By a recurrence rule of RFC 5545 (section 3.3.10), from a first begin on, which counts as one whether the rule has it or not
     * (section 3.8.5.3).
     *
     * @param rule without {@code RRULE:}; its UNTIL, if any, is a time of the wall
     */
    record ByRule(LocalDateTime start, String rule) implements Rhythm {
        private static final int LONGEST = 400;

        /** @throws IllegalArgumentException where it is no rule, or one that recurs within the day */
        public ByRule {
            if (rule.length() > LONGEST)
                throw new IllegalArgumentException("a recurrence rule has at most 400 letters");
            switch (recur(rule).getFrequency()) {
                case SECONDLY, MINUTELY, HOURLY ->
                    throw new IllegalArgumentException("a window recurs every day at most; hours are for cron");
                default -> {}
            }
        }

        private static Recur<LocalDateTime> recur(String rule) {
            try {
                return new Recur<>(rule);
            } catch (RuntimeException wrong) {
                throw new IllegalArgumentException(
                        "\"%s\" is no recurrence rule such as FREQ=WEEKLY;BYDAY=TU (RFC 5545)".formatted(rule), wrong);
            }
        }

        @Override
        public List<LocalDateTime> begins(LocalDate first, LocalDate last) {
            SortedSet<LocalDateTime> begins = new TreeSet<>();
            var from = first.atStartOfDay();
            var to = last.plusDays(1).atStartOfDay();
            for (var begin : recur(rule).getDates(start, from, to))
                if (!begin.isBefore(from) && begin.isBefore(to) && !begin.isBefore(start)) begins.add(begin);
            if (!start.isBefore(from) && start.isBefore(to)) begins.add(start);
            return List.copyOf(begins);
        }
    }
}
