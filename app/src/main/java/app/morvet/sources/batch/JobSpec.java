package app.morvet.sources.batch;

import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.CronExpression;
import app.morvet.core.batch.ExitCodes;
import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.batch.Job;
import app.morvet.core.batch.Schedule;
import app.morvet.core.batch.Timetable;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What is agreed about a job, as it is stored, sent in files and edited: plain texts and numbers. {@link #job} makes it the
 * job that core computes with, and is where a mistake is told.
 *
 * @param calendar name of the calendar of holidays; empty for none
 * @param zone     of all times of day
 * @param exitCodes a line each, as {@link ExitCodes#read} has them
 * @param command  what is run, for people and crontabs
 */
public record JobSpec(
        String chain,
        List<Start> schedules,
        String zone,
        String calendar,
        ClockChange clockChange,
        List<String> waits,
        List<String> files,
        String notBefore,
        int latestMinutes,
        int longestMinutes,
        String deadline,
        int retries,
        String exitCodes,
        int leastSeconds,
        long leastRecords,
        String command) {

    /**
     * One rule by which it starts.
     *
     * @param kind      {@code cron}, {@code every} or {@code working day}
     * @param cron      the expression
     * @param onHoliday for cron
     * @param minutes   for every
     * @param from      for every
     * @param to        for every
     * @param nth       for working day; negative from the last
     * @param at        for working day
     */
    public record Start(
            String kind,
            String cron,
            Schedule.OnHoliday onHoliday,
            int minutes,
            String from,
            String to,
            int nth,
            String at) {
        public Start {
            kind = clean(kind);
            cron = clean(cron);
            onHoliday = onHoliday == null ? Schedule.OnHoliday.STARTS : onHoliday;
            from = clean(from);
            to = clean(to);
            at = clean(at);
        }

        public static Start cron(String expression) {
            return cron(expression, Schedule.OnHoliday.STARTS);
        }

        public static Start cron(String expression, Schedule.OnHoliday onHoliday) {
            return new Start("cron", expression, onHoliday, 0, "", "", 0, "");
        }

        public static Start every(int minutes, String from, String to) {
            return new Start("every", "", Schedule.OnHoliday.STARTS, minutes, from, to, 0, "");
        }

        public static Start workingDay(int nth, String at) {
            return new Start("working day", "", Schedule.OnHoliday.STARTS, 0, "", "", nth, at);
        }

        /** @throws IllegalArgumentException saying what is wrong with it */
        public void check() {
            schedule();
        }

        Schedule schedule() {
            return switch (kind) {
                case "cron" -> new Schedule.Cron(CronExpression.of(cron), onHoliday);
                case "every" ->
                    new Schedule.Every(
                            Duration.ofMinutes(minutes),
                            time("from", from.isEmpty() ? "00:00" : from),
                            time("to", to.isEmpty() ? "23:59" : to));
                case "working day" -> new Schedule.WorkingDay(nth, time("at", at));
                default ->
                    throw new IllegalArgumentException(
                            "a schedule is of the kind cron, every or working day, not \"" + kind + "\"");
            };
        }
    }

    public JobSpec {
        chain = clean(chain);
        schedules = whole("schedules", schedules);
        zone = clean(zone);
        calendar = clean(calendar);
        clockChange = clockChange == null ? ClockChange.ONCE : clockChange;
        waits = whole("waits", waits);
        files = whole("files", files);
        notBefore = clean(notBefore);
        deadline = clean(deadline);
        exitCodes = exitCodes == null ? "" : exitCodes.strip().replaceAll("\\R", "\n");
        command = clean(command);
    }

    /** Files may leave a list out, and may not leave holes in one. */
    private static <T> List<T> whole(String what, @Nullable List<T> some) {
        if (some == null) return List.of();
        if (some.stream().anyMatch(Objects::isNull))
            throw new IllegalArgumentException("one of the " + what + " is null");
        return List.copyOf(some);
    }

    private static String clean(@Nullable String text) {
        return text == null ? "" : text.strip();
    }

    /** Of a job of which only its runs are known. */
    public static JobSpec unknown(ZoneId zone) {
        return of(zone, List.of());
    }

    /** With schedules, and all else as it usually is. */
    public static JobSpec of(ZoneId zone, List<Start> schedules) {
        return new JobSpec(
                "",
                schedules,
                zone.getId(),
                "",
                ClockChange.ONCE,
                List.of(),
                List.of(),
                "",
                (int) Job.USUAL_LATEST.toMinutes(),
                0,
                "",
                0,
                "",
                0,
                0,
                "");
    }

    public JobSpec withSchedules(List<Start> starts) {
        return with(starts, calendar, waits, files, command);
    }

    public JobSpec withWaits(String... jobs) {
        return with(schedules, calendar, List.of(jobs), files, command);
    }

    public JobSpec withFiles(String... names) {
        return with(schedules, calendar, waits, List.of(names), command);
    }

    public JobSpec withCommand(String what) {
        return with(schedules, calendar, waits, files, what);
    }

    /** @param name of the calendar of holidays */
    public JobSpec withCalendar(String name) {
        return with(schedules, name, waits, files, command);
    }

    private JobSpec with(List<Start> starts, String holidays, List<String> jobs, List<String> names, String what) {
        return new JobSpec(
                chain,
                starts,
                zone,
                holidays,
                clockChange,
                jobs,
                names,
                notBefore,
                latestMinutes,
                longestMinutes,
                deadline,
                retries,
                exitCodes,
                leastSeconds,
                leastRecords,
                what);
    }

    /**
     * @param calendars by name; null where there is none of that name
     * @throws IllegalArgumentException saying what is wrong and how it should be
     */
    public Job job(String key, Function<String, @Nullable HolidayCalendar> calendars) {
        var holidays = calendar.isEmpty() ? HolidayCalendar.NONE : calendars.apply(calendar);
        if (holidays == null) throw new IllegalArgumentException("there is no calendar \"" + calendar + "\"");
        return new Job(
                key,
                chain,
                new Timetable(schedules.stream().map(Start::schedule).toList(), zone(zone), holidays, clockChange),
                waits,
                files,
                notBefore.isEmpty() ? null : time("the time before which it does not start", notBefore),
                Duration.ofMinutes(inRange("the latest start", latestMinutes, 0, 10_080)),
                longestMinutes == 0 ? null : Duration.ofMinutes(inRange("the longest run", longestMinutes, 1, 43_200)),
                deadline.isEmpty() ? null : time("the deadline", deadline),
                retries,
                ExitCodes.read(exitCodes),
                Duration.ofSeconds(inRange("the least run time", leastSeconds, 0, 2_592_000)),
                leastRecords);
    }

    private static int inRange(String what, int value, int least, int most) {
        if (value < least || value > most)
            throw new IllegalArgumentException("%s must be %,d to %,d, was %,d".formatted(what, least, most, value));
        return value;
    }

    private static ZoneId zone(String name) {
        try {
            return ZoneId.of(name);
        } catch (DateTimeException unknown) {
            throw new IllegalArgumentException("\"" + name + "\" is no time zone; write one such as Europe/Helsinki");
        }
    }

    private static LocalTime time(String what, @Nullable String text) {
        var typed = clean(text);
        try {
            return LocalTime.parse(typed.length() == 4 ? "0" + typed : typed);
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException(what + " must be a time of day such as 06:30, was \"" + typed + "\"");
        }
    }
}
