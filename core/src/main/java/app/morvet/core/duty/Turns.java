package app.morvet.core.duty;

import app.morvet.core.guard.Hours;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * People who take turns, one after the other, from a day on. A turn begins when the clock on the wall shows a time: on a night on
 * which the clock is changed it is an hour longer or shorter, and still handed over at that time. Where the clock leaves that time
 * out, it is handed over as much later as the clock was put forward; a time that is there twice is meant the first time.
 *
 * @param from   the day of the first turn
 * @param at     when turns are handed over; of turns of some hours, when the first of a day is
 * @param every  how long a turn is
 * @param count  how many of that: 2 weeks, 8 hours
 * @param people by their ids, in order; the first begins. The same may be in it more than once
 * @param hours  when one of them can be called at all; null for around the clock
 */
public record Turns(LocalDate from, LocalTime at, Every every, int count, List<Long> people, @Nullable Hours hours) {
    public static final int MOST_PEOPLE = 50;

    /** What a turn is counted in. */
    public enum Every {
        HOURS("hours", 12),
        DAYS("days", 60),
        WEEKS("weeks", 26);

        private final String words;
        private final int most;

        Every(String words, int most) {
            this.words = words;
            this.most = most;
        }

        public String words() {
            return words;
        }
    }

    /** @throws IllegalArgumentException saying what cannot be */
    public Turns {
        people = List.copyOf(people);
        if (people.isEmpty() || people.size() > MOST_PEOPLE)
            throw new IllegalArgumentException("turns are taken by 1 to 50 people");
        if (count < 1 || count > every.most)
            throw new IllegalArgumentException("a turn is 1 to %d %s".formatted(every.most, every.words));
        if (every == Every.HOURS && 24 % count != 0)
            throw new IllegalArgumentException("turns of hours divide a day: 1, 2, 3, 4, 6, 8 or 12");
        if (at.getSecond() != 0 || at.getNano() != 0)
            throw new IllegalArgumentException("turns are handed over at a whole minute");
    }

    /** The number of a turn, from 0, and when it begins on the wall; before the first there is none. */
    record Turn(long number, LocalDateTime begin) {}

    private LocalDateTime first() {
        return from.atTime(at);
    }

    LocalDateTime begin(long number) {
        return switch (every) {
            case HOURS -> first().plusHours(number * count);
            case DAYS -> first().plusDays(number * count);
            case WEEKS -> first().plusWeeks(number * count);
        };
    }

    /** Whose turn it is at an instant; null before the first. */
    @Nullable
    Turn turn(Instant at, ZoneId zone) {
        var wall = LocalDateTime.ofInstant(at, zone);
        long number = Math.floorDiv(
                switch (every) {
                    case HOURS -> ChronoUnit.HOURS.between(first(), wall);
                    case DAYS -> ChronoUnit.DAYS.between(first(), wall);
                    case WEEKS -> ChronoUnit.WEEKS.between(first(), wall);
                },
                (long) count);
        // What the wall shows may lie on the other side of the begin as it came to be.
        number += 1;
        while (number >= 0 && start(number, zone).isAfter(at)) number--;
        return number < 0 ? null : new Turn(number, begin(number));
    }

    /** When a turn begins. */
    Instant start(long number, ZoneId zone) {
        return begin(number).atZone(zone).toInstant();
    }

    long person(long number) {
        return people.get((int) (number % people.size()));
    }

    /** {@code in turns of 1 week, handed over at 08:00, from 2027-03-01} */
    public String words() {
        var unit = count == 1 ? every.words().substring(0, every.words().length() - 1) : every.words();
        return "in turns of %d %s, handed over at %s, from %s%s"
                .formatted(count, unit, at, from, hours == null ? "" : ", " + Hours.words(hours));
    }
}
