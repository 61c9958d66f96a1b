package app.morvet.core.batch;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * A schedule learned from when a job has run. Even gaps of some hours or less make it every so often; the same time of day
 * on the same weekdays makes it a cron expression. What fits less than nine of ten runs is not proposed.
 */
public final class ScheduleProposal {
    private static final int ENOUGH = 4;
    private static final double FITS = 0.9;
    private static final int MINUTES_APART = 4;

    private ScheduleProposal() {}

    /** @param explains the share of the runs that it explains, 0 to 1 */
    public record Proposed(Schedule schedule, double explains) {}

    /** @param starts of runs, in any order */
    public static Optional<Proposed> of(List<Instant> starts, ZoneId zone) {
        var local = starts.stream().sorted().map(at -> at.atZone(zone)).toList();
        if (local.size() < ENOUGH) return Optional.empty();
        return everySoOften(local).or(() -> atATime(local));
    }

    private static Optional<Proposed> everySoOften(List<ZonedDateTime> starts) {
        var gaps = new ArrayList<Long>();
        for (int i = 1; i < starts.size(); i++)
            gaps.add(Math.round(
                    Duration.between(starts.get(i - 1), starts.get(i)).toSeconds() / 60.0));
        var sorted = gaps.stream().sorted().toList();
        long usual = sorted.get(sorted.size() / 2);
        if (usual < 1 || usual > 12 * 60) return Optional.empty();
        long allowed = Math.max(1, usual / 20);
        double fits = (double) gaps.stream()
                        .filter(gap -> Math.abs(gap - usual) <= allowed)
                        .count()
                / gaps.size();
        if (fits < FITS) return Optional.empty();
        int first = starts.getFirst().getHour() * 60 + starts.getFirst().getMinute();
        var from = LocalTime.MIDNIGHT.plusMinutes(Math.floorMod(first, usual));
        return Optional.of(
                new Proposed(new Schedule.Every(Duration.ofMinutes(usual), from, LocalTime.of(23, 59)), fits));
    }

    private static Optional<Proposed> atATime(List<ZonedDateTime> starts) {
        var minutes = starts.stream()
                .map(at -> at.getHour() * 60 + at.getMinute())
                .sorted()
                .toList();
        int usual = minutes.get(minutes.size() / 2);
        var near = starts.stream()
                .filter(at -> Math.abs(at.getHour() * 60 + at.getMinute() - usual) <= MINUTES_APART)
                .toList();
        double fits = (double) near.size() / starts.size();
        if (fits < FITS) return Optional.empty();
        var days = near.stream()
                .map(ZonedDateTime::getDayOfWeek)
                .collect(Collectors.toCollection(() -> EnumSet.noneOf(DayOfWeek.class)));
        // A weekday that has not come between the first run and the last says nothing.
        var first = near.getFirst().toLocalDate();
        var last = near.getLast().toLocalDate();
        for (var day : DayOfWeek.values())
            if (first.with(TemporalAdjusters.nextOrSame(day)).isAfter(last)) days.add(day);
        // The first minute at which it was seen: later ones had to wait.
        int at = near.stream()
                .mapToInt(one -> one.getHour() * 60 + one.getMinute())
                .min()
                .orElse(usual);
        return Optional.of(new Proposed(
                new Schedule.Cron(
                        CronExpression.of("%d %d * * %s".formatted(at % 60, at / 60, days(days))),
                        Schedule.OnHoliday.STARTS),
                fits));
    }

    private static String days(EnumSet<DayOfWeek> days) {
        if (days.size() == 7) return "*";
        if (days.equals(EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY))) return "mon-fri";
        return days.stream()
                .map(day -> day.name().substring(0, 3).toLowerCase(Locale.ROOT))
                .collect(Collectors.joining(","));
    }
}
