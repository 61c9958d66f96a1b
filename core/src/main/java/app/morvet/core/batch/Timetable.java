package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;

/**
 * When a job starts: its schedules in their zone, with its holidays. Starts that fall on the same instant are one.
 *
 * <p>Where the clock is put forward over a start or back over it, {@link ClockChange} says what happens. A cron expression
 * that runs in every hour, and starts every so often, follow elapsed time: nothing is lost and nothing runs twice in a
 * moment, but the repeated hour has its runs as every other.
 *
 * @param schedules none for a job that starts only after others, or when somebody asks
 */
public record Timetable(List<Schedule> schedules, ZoneId zone, HolidayCalendar calendar, ClockChange clockChange) {
    private static final int FARTHEST_SHIFT = 31;

    /** A 29th of February comes within eight years, even about 2100. */
    private static final int YEARS_AHEAD = 9;

    private static final int YEARS_PLANNED = 3;
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMMM", Locale.ENGLISH);

    public Timetable {
        schedules = List.copyOf(schedules);
    }

    /**
     * The starts in a half-open span.
     *
     * @return in order, each once
     */
    public List<Instant> starts(Instant from, Instant to) {
        var found = new TreeSet<Instant>();
        if (!from.isBefore(to)) return List.of();
        var first = from.atZone(zone).toLocalDate();
        var last = to.atZone(zone).toLocalDate();
        for (var schedule : schedules) {
            switch (schedule) {
                case Schedule.Cron cron -> cron(cron, first, last, found);
                case Schedule.Every every -> {
                    for (var day = first; !day.isAfter(last); day = day.plusDays(1)) every(every, day, found);
                }
                case Schedule.WorkingDay(int nth, LocalTime at) -> {
                    for (var month = first.withDayOfMonth(1); !month.isAfter(last); month = month.plusMonths(1)) {
                        var day = calendar.nthWorking(month, nth);
                        if (day != null) add(day, at, clockChange, found);
                    }
                }
            }
        }
        return List.copyOf(found.subSet(from, to));
    }

    private void cron(Schedule.Cron cron, LocalDate first, LocalDate last, TreeSet<Instant> found) {
        var times = cron.expression().times();
        var change = cron.expression().everyHour() ? ClockChange.AS_SHOWN : clockChange;
        // A start that a holiday puts off may come from before the span.
        var begin = cron.onHoliday() == Schedule.OnHoliday.NEXT_WORKING_DAY ? first.minusDays(FARTHEST_SHIFT) : first;
        for (var day = begin; !day.isAfter(last); day = day.plusDays(1)) {
            if (!cron.expression().fits(day)) continue;
            var on = day;
            if (calendar.holiday(day)) {
                if (cron.onHoliday() == Schedule.OnHoliday.LEFT_OUT) continue;
                if (cron.onHoliday() == Schedule.OnHoliday.NEXT_WORKING_DAY) on = calendar.workingFrom(day);
            }
            if (on.isBefore(first)) continue;
            for (var time : times) add(on, time, change, found);
        }
    }

    private void every(Schedule.Every every, LocalDate day, TreeSet<Instant> found) {
        var end = instant(day, every.to());
        for (var at = instant(day, every.from()); !at.isAfter(end); at = at.plus(every.every())) found.add(at);
    }

    /** The first time that the clock shows this on the day, or the change that leaves it out. */
    private Instant instant(LocalDate day, LocalTime time) {
        var found = new TreeSet<Instant>();
        add(day, time, ClockChange.ONCE, found);
        return found.first();
    }

    private void add(LocalDate day, LocalTime time, ClockChange change, TreeSet<Instant> found) {
        var local = day.atTime(time);
        var offsets = zone.getRules().getValidOffsets(local);
        if (offsets.isEmpty()) {
            if (change == ClockChange.ONCE)
                found.add(zone.getRules().getTransition(local).getInstant());
            return;
        }
        for (ZoneOffset offset : offsets) {
            found.add(local.toInstant(offset));
            if (change == ClockChange.ONCE) return;
        }
    }

    /**
     * The next starts after an instant.
     *
     * @param most how many
     * @return fewer where there are not so many within nine years
     */
    public List<Instant> next(Instant after, int most) {
        var found = new ArrayList<Instant>();
        var end = after.atZone(zone).plusYears(YEARS_AHEAD).toInstant();
        var from = after.plusNanos(1);
        for (int days = 2; found.size() < most && from.isBefore(end); days *= 3) {
            var to = from.plus(Duration.ofDays(days));
            if (to.isAfter(end)) to = end;
            found.addAll(starts(from, to));
            from = to;
        }
        return found.size() <= most ? List.copyOf(found) : List.copyOf(found.subList(0, most));
    }

    /**
     * What somebody who plans should know, in words: starts that the next changes of the clock leave out, put off or
     * double, and schedules that never come.
     */
    public List<String> doubts(Instant now) {
        var doubts = new ArrayList<String>();
        if (!schedules.isEmpty()) {
            var planned = now.atZone(zone).plusYears(YEARS_PLANNED).toInstant();
            var first = next(now, 1);
            if (first.isEmpty()) doubts.add("would never start");
            else if (first.getFirst().isAfter(planned)) doubts.add("would not start within the next three years");
        }
        var at = now;
        for (int i = 0; i < 2; i++) {
            var transition = zone.getRules().nextTransition(at);
            if (transition == null) break;
            at = transition.getInstant();
            doubt(transition.isGap(), at, doubts);
        }
        return doubts;
    }

    private void doubt(boolean gap, Instant at, List<String> doubts) {
        var day = at.atZone(zone).toLocalDate();
        var times = new TreeSet<LocalTime>();
        for (var schedule : schedules) {
            switch (schedule) {
                case Schedule.Cron cron -> {
                    if (!cron.expression().everyHour() && cron.expression().fits(day))
                        times.addAll(cron.expression().times());
                }
                case Schedule.Every every -> {
                    // counted in elapsed time
                }
                case Schedule.WorkingDay rule -> {
                    if (day.equals(calendar.nthWorking(day, rule.nth()))) times.add(rule.at());
                }
            }
        }
        for (var time : times) {
            int ways = zone.getRules().getValidOffsets(day.atTime(time)).size();
            if (ways == 1) continue;
            var when = "%s (%s) on %s"
                    .formatted(time, zone.getDisplayName(TextStyle.SHORT, Locale.ENGLISH), DAY.format(day));
            boolean once = clockChange == ClockChange.ONCE;
            if (gap)
                doubts.add(
                        once
                                ? "%s does not come: would run at %s"
                                        .formatted(when, at.atZone(zone).toLocalTime())
                                : "would not run on %s: %s does not come".formatted(DAY.format(day), time));
            else
                doubts.add(
                        once
                                ? "%s comes twice: would run the first time only".formatted(when)
                                : "would run twice on %s: %s comes twice".formatted(DAY.format(day), time));
        }
    }
}
