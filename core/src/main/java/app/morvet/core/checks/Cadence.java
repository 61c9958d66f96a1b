package app.morvet.core.checks;

import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.CronExpression;
import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.batch.Schedule;
import app.morvet.core.batch.ScheduleWords;
import app.morvet.core.batch.Timetable;
import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How often a check runs: every so often, or at the times of a cron expression in a zone.
 *
 * @param every the span; of a cron expression the longest between two of its times in the near future, which is what is promised
 * @param cron  five fields, as {@link CronExpression} reads them; empty where it is a span
 */
public record Cadence(Duration every, String cron, @Nullable Timetable times) {
    public static final Duration SHORTEST = Duration.ofSeconds(10);
    public static final Duration LONGEST = Duration.ofDays(1);
    /** So many of its times are looked at for the longest span between two of them. */
    private static final int LOOKED_AT = 60;

    private static final Duration LONGEST_BY_CRON = Duration.ofDays(400);

    public static Cadence of(Duration every) {
        if (every.compareTo(SHORTEST) < 0 || every.compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("a check runs every 10 s to every day");
        return new Cadence(every, "", null);
    }

    /**
     * Reads {@code 5 min} or {@code 30 6 * * 1-5}.
     *
     * @throws IllegalArgumentException where it is neither, or too often, or never; says why
     */
    public static Cadence read(String text, ZoneId zone, Instant now) {
        if (!text.strip().matches("\\S+(\\s+\\S+){4}|@\\w+")) return of(Spans.read(text));
        var times = times(text.strip(), zone);
        var next = times.next(now, LOOKED_AT);
        if (next.size() < 2) throw new IllegalArgumentException("\"" + text.strip() + "\" never comes");
        var longest = SHORTEST;
        for (int i = 1; i < next.size(); i++) {
            var gap = Duration.between(next.get(i - 1), next.get(i));
            if (gap.compareTo(longest) > 0) longest = gap;
        }
        if (longest.compareTo(LONGEST_BY_CRON) > 0)
            throw new IllegalArgumentException("\"" + text.strip() + "\" comes less than once a year");
        return new Cadence(longest, text.strip(), times);
    }

    /** One that was read before: what is promised is known. */
    public static Cadence stored(Duration every, String cron, ZoneId zone) {
        return new Cadence(every, cron, cron.isEmpty() ? null : times(cron, zone));
    }

    private static Timetable times(String cron, ZoneId zone) {
        var schedule = new Schedule.Cron(CronExpression.of(cron), Schedule.OnHoliday.STARTS);
        return new Timetable(List.of(schedule), zone, HolidayCalendar.NONE, ClockChange.ONCE);
    }

    /**
     * When it runs next.
     *
     * @param due when it was due; who has fallen behind begins anew from now
     */
    public Instant next(Instant due, Instant now) {
        if (times != null) return times.next(now, 1).stream().findFirst().orElse(now.plus(LONGEST_BY_CRON));
        var next = due.plus(every);
        return next.isBefore(now) ? now.plus(every.dividedBy(2)) : next;
    }

    /** As a sentence begins: {@code every 5 min}, {@code every day at 06:30 (Europe/Helsinki)}. */
    public String words() {
        if (times == null) return "every " + Spans.words(every);
        return ScheduleWords.of(times.schedules().getFirst()) + " (" + times.zone() + ")";
    }

    /** As it is typed. */
    public String text() {
        return times == null ? Spans.words(every) : cron;
    }
}
