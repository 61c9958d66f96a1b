package app.morvet.core.batch;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.format.TextStyle;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** Whether trouble comes on days that have something in common. */
public final class Recurrence {
    private static final int ENOUGH = 3;
    private static final double MOST = 0.75;

    private Recurrence() {}

    /**
     * @param days on which there was trouble; each counts once
     * @return such as {@code 4 of 4 on a Tuesday, every second one}; empty where three days or more share nothing
     */
    public static Optional<String> of(Collection<LocalDate> days) {
        var all = days.stream().distinct().sorted().toList();
        if (all.size() < ENOUGH) return Optional.empty();
        long turn = all.stream()
                .filter(day -> day.getDayOfMonth() == 1 || day.getDayOfMonth() == day.lengthOfMonth())
                .count();
        if (turn >= ENOUGH && turn >= MOST * all.size())
            return Optional.of("%d of %d at the turn of the month".formatted(turn, all.size()));
        var byDay = all.stream().collect(Collectors.groupingBy(LocalDate::getDayOfWeek));
        var most = byDay.entrySet().stream()
                .max(java.util.Comparator.comparingInt(entry -> entry.getValue().size()))
                .orElseThrow();
        int some = most.getValue().size();
        if (some < ENOUGH || some < MOST * all.size()) return Optional.empty();
        return Optional.of("%d of %d on a %s%s"
                .formatted(
                        some,
                        all.size(),
                        name(most.getKey()),
                        everySecond(most.getValue()) ? ", every second one" : ""));
    }

    private static boolean everySecond(List<LocalDate> days) {
        return days.stream().allMatch(day -> ChronoUnit.DAYS.between(days.getFirst(), day) % 14 == 0);
    }

    private static String name(DayOfWeek day) {
        return day.getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }
}
