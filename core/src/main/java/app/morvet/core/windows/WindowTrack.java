package app.morvet.core.windows;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;

/** A strip of days with the times of windows on it; all places are in the strip's own unit, and grow with elapsed time. */
public final class WindowTrack {
    /** So wide at least, so that a short one is seen. */
    private static final double NARROWEST = 3;

    private final Instant from;
    private final Instant to;
    private final double width;

    /** @throws IllegalArgumentException where it ends before it begins */
    public WindowTrack(Instant from, Instant to, double width) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a track begins before it ends");
        this.from = from;
        this.to = to;
        this.width = width;
    }

    /** One time on the strip; what reaches over its ends is cut there. */
    public record Bar(Plan.Span span, double x, double width) {}

    /** A day on the strip. */
    public record Day(LocalDate day, double x, double width) {
        public boolean weekend() {
            return day.getDayOfWeek() == DayOfWeek.SATURDAY || day.getDayOfWeek() == DayOfWeek.SUNDAY;
        }
    }

    /** Where an instant is, from 0 to the width; what lies outside is at the end nearest to it. */
    public double x(Instant at) {
        double share = (double) Duration.between(from, at).toMillis()
                / Duration.between(from, to).toMillis();
        return Math.clamp(share, 0, 1) * width;
    }

    /** From left to right, without those outside. */
    public List<Bar> bars(Collection<Plan.Span> spans) {
        return spans.stream()
                .filter(one -> one.meets(from, to))
                .sorted(Comparator.comparing(Plan.Span::from))
                .map(one -> {
                    double wide = Math.max(NARROWEST, x(one.to()) - x(one.from()));
                    return new Bar(one, Math.min(x(one.from()), width - wide), wide);
                })
                .toList();
    }

    /** The days as they are in a zone; one on which the clock is changed is as much narrower or wider. */
    public List<Day> days(ZoneId zone) {
        var days = new ArrayList<Day>();
        for (var day = from.atZone(zone).toLocalDate(); ; day = day.plusDays(1)) {
            var begin = day.atStartOfDay(zone).toInstant();
            if (!begin.isBefore(to)) return List.copyOf(days);
            var end = day.plusDays(1).atStartOfDay(zone).toInstant();
            days.add(new Day(day, x(begin), x(end) - x(begin)));
        }
    }
}
