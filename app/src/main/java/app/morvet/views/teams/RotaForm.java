package app.morvet.views.teams;

import app.morvet.core.duty.Turns;
import app.morvet.core.guard.Hours;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What is typed of a rota, read; each says what cannot be, and how it is written. */
final class RotaForm {
    private RotaForm() {}

    static Turns turns(Map<String, String> sent, List<People.Card> members, ZoneId zone) {
        return new Turns(
                day(given(sent, "from")),
                clock(given(sent, "at")),
                java.util.Arrays.stream(Turns.Every.values())
                        .filter(one -> one.name().equals(given(sent, "every")))
                        .findFirst()
                        .orElseThrow(() -> new IllegalArgumentException("say how long a turn is")),
                whole(given(sent, "count")),
                persons(given(sent, "people"), members),
                hours(sent, zone));
    }

    static @Nullable Hours hours(Map<String, String> sent, ZoneId zone) {
        var days =
                switch (given(sent, "days")) {
                    case "weekdays" -> EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY);
                    case "weekends" -> EnumSet.range(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);
                    case "daily" -> EnumSet.allOf(DayOfWeek.class);
                    default -> Set.<DayOfWeek>of();
                };
        return days.isEmpty()
                ? null
                : new Hours(days, clock(given(sent, "hoursFrom")), clock(given(sent, "hoursTo")), zone);
    }

    static List<Long> persons(String typed, List<People.Card> members) {
        return java.util.Arrays.stream(typed.split("[,;\\n]"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .map(name -> members.stream()
                        .map(People.Card::person)
                        .filter(one ->
                                one.name().equalsIgnoreCase(name) || one.login().equalsIgnoreCase(name))
                        .findFirst()
                        .map(Person::id)
                        .orElseThrow(() -> new IllegalArgumentException("\"%s\" is not of this team; it has %s"
                                .formatted(
                                        name,
                                        members.isEmpty()
                                                ? "nobody yet"
                                                : String.join(
                                                        ", ",
                                                        members.stream()
                                                                .map(one -> one.person()
                                                                        .name())
                                                                .toList())))))
                .toList();
    }

    static ZoneId zone(String typed) {
        try {
            return ZoneId.of(typed);
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + typed + "\" is no time zone such as Europe/Helsinki", wrong);
        }
    }

    static LocalDate day(String typed) {
        try {
            return LocalDate.parse(typed);
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + typed + "\" is no day such as 2027-03-01", wrong);
        }
    }

    static LocalTime clock(String typed) {
        try {
            return LocalTime.parse(typed);
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + typed + "\" is no time of day such as 08:00", wrong);
        }
    }

    static Instant instant(String typed, ZoneId zone) {
        try {
            return LocalDateTime.parse(typed).atZone(zone).toInstant();
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + typed + "\" is no day and time", wrong);
        }
    }

    static int whole(String typed) {
        return typed.matches("\\d{1,9}") ? Integer.parseInt(typed) : 0;
    }

    static String given(Map<String, String> sent, String name) {
        return sent.getOrDefault(name, "").strip();
    }
}
