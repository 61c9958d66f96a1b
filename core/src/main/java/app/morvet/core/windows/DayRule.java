package app.morvet.core.windows;

import app.morvet.core.batch.HolidayCalendar;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Collections;
import java.util.EnumSet;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;

/** On which days something recurs. */
public sealed interface DayRule {
    boolean has(LocalDate day, HolidayCalendar calendar);

    record EveryDay() implements DayRule {
        @Override
        public boolean has(LocalDate day, HolidayCalendar calendar) {
            return true;
        }
    }

    /**
     * On days of the week, every so many weeks.
     *
     * @param every  1 for every week
     * @param from the first day on which it can be; its week is the first that counts
     */
    record Weekly(int every, Set<DayOfWeek> days, LocalDate from) implements DayRule {
        public Weekly {
            if (every < 1 || every > 52) throw new IllegalArgumentException("every 1 to 52 weeks, not " + every);
            if (days.isEmpty()) throw new IllegalArgumentException("say on which days of the week");
            days = Collections.unmodifiableSet(EnumSet.copyOf(days));
        }

        @Override
        public boolean has(LocalDate day, HolidayCalendar calendar) {
            if (!days.contains(day.getDayOfWeek())) return false;
            if (every == 1) return true;
            return !day.isBefore(from) && ChronoUnit.WEEKS.between(monday(from), monday(day)) % every == 0;
        }

        private static LocalDate monday(LocalDate day) {
            return day.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
        }
    }

    /**
     * On such a day of the week in a month.
     *
     * @param nth 1 to 5, or -1 for the last
     */
    record InMonth(int nth, DayOfWeek day) implements DayRule {
        public InMonth {
            if (nth != -1 && (nth < 1 || nth > 5))
                throw new IllegalArgumentException("the first to fifth, or the last");
        }

        @Override
        public boolean has(LocalDate at, HolidayCalendar calendar) {
            return at.getDayOfWeek() == day && at.equals(at.with(TemporalAdjusters.dayOfWeekInMonth(nth, day)));
        }
    }

    /**
     * On days of the month.
     *
     * @param days 1 to 31, or -1 alone for the last; a month that has no such day has none
     */
    record OfMonth(SortedSet<Integer> days) implements DayRule {
        public OfMonth {
            if (days.isEmpty()) throw new IllegalArgumentException("say on which days of the month");
            if (days.contains(-1) && days.size() > 1)
                throw new IllegalArgumentException("the last day of the month goes with no other");
            for (int day : days)
                if (day != -1 && (day < 1 || day > 31)) throw new IllegalArgumentException("no month has a day " + day);
            days = Collections.unmodifiableSortedSet(new TreeSet<>(days));
        }

        @Override
        public boolean has(LocalDate day, HolidayCalendar calendar) {
            return days.contains(day.getDayOfMonth())
                    || days.contains(-1) && day.getDayOfMonth() == day.lengthOfMonth();
        }
    }

    /**
     * On a working day of the month.
     *
     * @param nth from 1 for the first, from -1 for the last, at most 23 either way
     */
    record Working(int nth) implements DayRule {
        public Working {
            if (nth == 0 || Math.abs(nth) > 23)
                throw new IllegalArgumentException("a working day is the 1st to 23rd, or the last to 23rd from last");
        }

        @Override
        public boolean has(LocalDate day, HolidayCalendar calendar) {
            return day.equals(calendar.nthWorking(day, nth));
        }
    }
}
