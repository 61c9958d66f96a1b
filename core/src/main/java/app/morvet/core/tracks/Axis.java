package app.morvet.core.tracks;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A span of time as an axis: places on it are per cent of its width, so that what is drawn is right however wide that is.
 *
 * @param from where it begins
 * @param to   where it ends, after it begins
 */
public record Axis(Instant from, Instant to) {
    private static final int MOST = 8;
    private static final List<Duration> STEPS = List.of(
            Duration.ofMinutes(1),
            Duration.ofMinutes(2),
            Duration.ofMinutes(5),
            Duration.ofMinutes(10),
            Duration.ofMinutes(15),
            Duration.ofMinutes(30),
            Duration.ofHours(1),
            Duration.ofHours(2),
            Duration.ofHours(3),
            Duration.ofHours(6),
            Duration.ofHours(12));
    private static final List<Integer> DAYS = List.of(1, 2, 7, 14, 28, 91, 182, 364);
    private static final DateTimeFormatter HOUR = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM", Locale.ENGLISH);

    /** @throws IllegalArgumentException where it ends before it begins */
    public Axis {
        if (!from.isBefore(to)) throw new IllegalArgumentException("an axis begins before it ends");
    }

    /** @param day whether a day begins there */
    public record Tick(double x, String words, boolean day) {}

    /** Per cent of the width; below 0 or above 100 for what lies outside. */
    public double x(Instant at) {
        return 100.0 * Duration.between(from, at).toMillis() / length().toMillis();
    }

    public Duration length() {
        return Duration.between(from, to);
    }

    public boolean holds(Instant at) {
        return !at.isBefore(from) && at.isBefore(to);
    }

    /**
     * Round times of the clock on the wall, at most {@value MOST}: each is there once, whatever the clock did that night. Where a day begins
     * the day is said.
     */
    public List<Tick> ticks(ZoneId zone) {
        var ticks = new ArrayList<Tick>();
        for (var local : rounds(zone)) {
            var at = local.atZone(zone);
            // In the hour that the clock leaves out there is no such time.
            if (!at.toLocalDateTime().equals(local) || !holds(at.toInstant())) continue;
            boolean day = local.toLocalTime().equals(LocalTime.MIDNIGHT);
            ticks.add(new Tick(x(at.toInstant()), (day ? DAY : HOUR).format(local), day));
        }
        return List.copyOf(ticks);
    }

    private List<LocalDateTime> rounds(ZoneId zone) {
        var first = from.atZone(zone).toLocalDateTime();
        var last = to.atZone(zone).toLocalDateTime();
        var found = new ArrayList<LocalDateTime>();
        for (var step : STEPS) {
            if (length().dividedBy(step) >= MOST) continue;
            var at = first.truncatedTo(ChronoUnit.DAYS);
            at = at.plus(step.multipliedBy(Duration.between(at, first).dividedBy(step)));
            for (; !at.isAfter(last); at = at.plus(step)) found.add(at);
            return found;
        }
        int days = DAYS.stream()
                .filter(one -> length().toDays() / one < MOST)
                .findFirst()
                .orElse(364);
        // From a Monday on, so that they stay where they are while the axis is moved.
        long since = first.toLocalDate().toEpochDay() - 4;
        var at = first.toLocalDate().minusDays(Math.floorMod(since, days)).atStartOfDay();
        for (; !at.isAfter(last); at = at.plusDays(days)) found.add(at);
        return found;
    }

    /** The same length, so much earlier or, negative, later. */
    public Axis earlier(double lengths) {
        var by = Duration.ofMillis(Math.round(length().toMillis() * lengths));
        return new Axis(from.minus(by), to.minus(by));
    }

    /**
     * Around its middle.
     *
     * @param times how many times as long; not shorter than a minute, nor longer than 400 days
     */
    public Axis longer(double times) {
        long least = Duration.ofMinutes(1).toMillis();
        long most = Duration.ofDays(400).toMillis();
        long half = Math.clamp(Math.round(length().toMillis() * times), least, most) / 2;
        var middle = from.plusMillis(length().toMillis() / 2);
        return new Axis(middle.minusMillis(half), middle.plusMillis(half));
    }
}
