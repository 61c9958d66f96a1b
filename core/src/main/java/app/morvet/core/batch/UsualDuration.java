package app.morvet.core.batch;

import app.morvet.core.guard.Statistics;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * How long a job usually runs, learned from its runs. A run of 30 days ago counts half as much as one of today, so what
 * has changed for good is believed after some weeks and a single night is not.
 *
 * <p>The turn of the month, and each weekday, are learned apart where that matters: where enough of their runs were seen
 * and their median differs from that of the others by more than a tenth and by more than three of its standard errors. The
 * error is 1.2533 σ / √n, that of a median of normal values, with σ from the median absolute deviation of the others, so a
 * few runs that went wrong do not hide a difference or make one.
 */
public final class UsualDuration {
    private static final Duration HALF_LIFE = Duration.ofDays(30);
    private static final int ENOUGH_MONTH_ENDS = 3;
    private static final int ENOUGH_WEEKDAYS = 4;
    private static final double ERRORS = 3;
    private static final double TENTH = 0.1;
    private static final double ERROR_OF_MEDIAN = 1.2533;
    private static final Duration GUESS = Duration.ofMinutes(10);

    private final Spread all;
    private final @Nullable Spread monthEnd;
    private final Map<DayOfWeek, Spread> weekdays;

    private UsualDuration(Spread all, @Nullable Spread monthEnd, Map<DayOfWeek, Spread> weekdays) {
        this.all = all;
        this.monthEnd = monthEnd;
        this.weekdays = weekdays;
    }

    /** @param seconds that it ran */
    public record Seen(Instant started, double seconds) {}

    /**
     * @param seen runs that were done, in any order; none is fine
     * @param now  from where their age is counted
     * @param longest what is agreed as the longest run, to guess by where none was seen; or null
     */
    public static UsualDuration of(List<Seen> seen, ZoneId zone, Instant now, @Nullable Duration longest) {
        if (seen.isEmpty()) {
            double most = (longest == null ? GUESS : longest).toSeconds();
            return new UsualDuration(Spread.between(Math.min(1, most), most), null, Map.of());
        }
        var turn = new ArrayList<Seen>();
        var rest = new ArrayList<Seen>();
        for (var one : seen) (monthEnd(one.started().atZone(zone).toLocalDate()) ? turn : rest).add(one);
        boolean apart = turn.size() >= ENOUGH_MONTH_ENDS && differs(turn, rest);
        var common = apart ? rest : seen;
        var byDay = new EnumMap<DayOfWeek, List<Seen>>(DayOfWeek.class);
        for (var one : common)
            byDay.computeIfAbsent(one.started().atZone(zone).getDayOfWeek(), none -> new ArrayList<>())
                    .add(one);
        var weekdays = new EnumMap<DayOfWeek, Spread>(DayOfWeek.class);
        var ordinary = new ArrayList<Seen>();
        byDay.forEach((day, some) -> {
            var others = new ArrayList<Seen>();
            byDay.forEach((other, these) -> {
                if (other != day) others.addAll(these);
            });
            if (some.size() >= ENOUGH_WEEKDAYS && differs(some, others))
                weekdays.put(day, spread(some, now, "on " + day.getDisplayName(TextStyle.FULL, Locale.ENGLISH) + "s"));
            else ordinary.addAll(some);
        });
        return new UsualDuration(
                spread(ordinary.isEmpty() ? common : ordinary, now, ""),
                apart ? spread(turn, now, "at the turn of the month") : null,
                weekdays);
    }

    /** What is usual for a run that starts on a day. */
    public Spread on(LocalDate day) {
        if (monthEnd != null && monthEnd(day)) return monthEnd;
        return weekdays.getOrDefault(day.getDayOfWeek(), all);
    }

    /** The last day of a month and the first. */
    private static boolean monthEnd(LocalDate day) {
        return day.getDayOfMonth() == 1 || day.getDayOfMonth() == day.lengthOfMonth();
    }

    private static boolean differs(List<Seen> some, List<Seen> others) {
        if (others.size() < ENOUGH_WEEKDAYS) return false;
        var these = seconds(some);
        var those = seconds(others);
        double middle = Statistics.median(those);
        double apart = Math.abs(Statistics.median(these) - middle);
        double error = ERROR_OF_MEDIAN * Statistics.spread(those, middle) / Math.sqrt(these.length);
        return apart > TENTH * middle && apart > ERRORS * error;
    }

    private static double[] seconds(List<Seen> some) {
        return some.stream().mapToDouble(Seen::seconds).toArray();
    }

    private static Spread spread(List<Seen> some, Instant now, String because) {
        var weights = some.stream()
                .mapToDouble(one -> {
                    double age =
                            Math.max(0, Duration.between(one.started(), now).toSeconds());
                    return Math.pow(0.5, age / HALF_LIFE.toSeconds());
                })
                .toArray();
        return Spread.of(seconds(some), weights, because);
    }
}
