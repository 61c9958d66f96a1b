package app.morvet.core.shift;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Into which shifts a day is divided: each goes on until the next begins, the last over midnight until the first of the next day. On the night
 * of a clock change a shift is an hour shorter or longer; one that would begin in the hour that is left out begins at its end.
 *
 * @param shifts by when they begin
 */
public record ShiftPlan(List<Named> shifts, ZoneId zone) {
    private static final int MOST = 12;
    private static final int LONGEST = 40;

    /** @param begins by the clock on the wall */
    public record Named(String name, LocalTime begins) {}

    /** One of them on a day; half-open. */
    public record Shift(String name, Instant from, Instant to) {}

    /** @throws IllegalArgumentException where two begin at once, one has no name, or there are too many; says what */
    public ShiftPlan {
        shifts = shifts.stream().sorted(Comparator.comparing(Named::begins)).toList();
        if (shifts.size() > MOST) throw new IllegalArgumentException("A day has at most %d shifts.".formatted(MOST));
        var begins = new HashSet<LocalTime>();
        for (var one : shifts) {
            if (one.name().isBlank() || one.name().length() > LONGEST)
                throw new IllegalArgumentException("A shift has a name of up to %d characters.".formatted(LONGEST));
            if (!begins.add(one.begins()))
                throw new IllegalArgumentException("Two shifts begin at " + one.begins() + ".");
        }
    }

    /** The one that is on at an instant; empty where the day is not divided. */
    public Optional<Shift> at(Instant now) {
        if (shifts.isEmpty()) return Optional.empty();
        var today = LocalDate.ofInstant(now, zone);
        var all = Stream.of(today.minusDays(1), today, today.plusDays(1))
                .flatMap(day -> shifts.stream().map(one -> new Shift(one.name(), begin(day, one), begin(day, one))))
                .toList();
        for (int i = 0; i + 1 < all.size(); i++) {
            var from = all.get(i).from();
            var to = all.get(i + 1).from();
            if (!from.isAfter(now) && to.isAfter(now))
                return Optional.of(new Shift(all.get(i).name(), from, to));
        }
        return Optional.empty();
    }

    private Instant begin(LocalDate day, Named one) {
        return day.atTime(one.begins()).atZone(zone).toInstant();
    }

    /**
     * As people type it, a shift a line: {@code 06:00 early}.
     *
     * @throws IllegalArgumentException where a line is none; says which
     */
    public static ShiftPlan parse(String typed, ZoneId zone) {
        return new ShiftPlan(
                typed.lines()
                        .map(String::strip)
                        .filter(line -> !line.isEmpty())
                        .map(ShiftPlan::named)
                        .toList(),
                zone);
    }

    private static Named named(String line) {
        var parts = line.split("\\s+", 2);
        if (parts.length == 2 && parts[0].matches("([01]\\d|2[0-3]):[0-5]\\d"))
            return new Named(parts[1], LocalTime.parse(parts[0]));
        throw new IllegalArgumentException(
                "\"%s\" is no shift: write when it begins and its name, as 06:00 early.".formatted(line));
    }

    /** The same as it was typed. */
    public String text() {
        return String.join(
                "\n",
                shifts.stream().map(one -> one.begins() + " " + one.name()).toList());
    }
}
