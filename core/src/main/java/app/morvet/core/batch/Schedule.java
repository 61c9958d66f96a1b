package app.morvet.core.batch;

import java.time.Duration;
import java.time.LocalTime;

/** One of the rules by which a job starts. */
public sealed interface Schedule {

    /** What becomes of a start on a holiday of the job's calendar. */
    enum OnHoliday {
        /** It starts all the same. */
        STARTS,
        /** It is left out. */
        LEFT_OUT,
        /** It starts on the next working day, at the same time. */
        NEXT_WORKING_DAY
    }

    /** By a cron expression. */
    record Cron(CronExpression expression, OnHoliday onHoliday) implements Schedule {}

    /**
     * Every so often within each day, counted in elapsed time from {@code from}.
     *
     * @param every at least a minute, less than a day, in whole minutes
     * @param from  the first start of the day
     * @param to    the last start is not after this
     */
    record Every(Duration every, LocalTime from, LocalTime to) implements Schedule {
        public Every {
            if (every.compareTo(Duration.ofMinutes(1)) < 0 || every.compareTo(Duration.ofDays(1)) >= 0)
                throw new IllegalArgumentException("every must be 1 min or more and less than a day");
            if (every.toSecondsPart() != 0) throw new IllegalArgumentException("every must be whole minutes");
            if (to.isBefore(from)) throw new IllegalArgumentException("the last start must not lie before the first");
        }
    }

    /**
     * On one working day of each month.
     *
     * @param nth from 1 for the first, from -1 for the last, at most 23 either way
     */
    record WorkingDay(int nth, LocalTime at) implements Schedule {
        public WorkingDay {
            if (nth == 0 || Math.abs(nth) > 23)
                throw new IllegalArgumentException(
                        "a working day is the 1st to 23rd, or the last to 23rd from the end");
        }
    }
}
