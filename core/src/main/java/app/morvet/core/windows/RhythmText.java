package app.morvet.core.windows;

import app.morvet.core.batch.CronExpression;
import app.morvet.core.batch.HolidayCalendar;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * A rhythm as people say it; what is written is read back as the same. For example:
 *
 * <pre>{@code
 * every day at 03:00
 * every Tuesday, Thursday at 22:40
 * every 2 weeks on Tuesday from 2027-03-02 at 22:40
 * on the second Tuesday of the month in March, June at 22:40
 * on the last working day of the month at 18:00, not on holidays
 * on day 1, 15 of the month at 01:30
 * on the last day of the month at 01:30
 * cron 40 22 * * 2
 * rule FREQ=MONTHLY;BYDAY=2TU from 2027-03-09T22:40
 * }</pre>
 */
public final class RhythmText {
    private static final List<String> ORDINALS = List.of("first", "second", "third", "fourth", "fifth");
    private static final String NOT_ON_HOLIDAYS = ", not on holidays";
    private static final Pattern AT = Pattern.compile("(.*?)(?: in ([a-z, ]+?))? at (\\d\\d?:\\d\\d)", Pattern.DOTALL);
    private static final Pattern WEEKS =
            Pattern.compile("every (?:(\\d{1,2}|second) )?(?:weeks? on )?([a-z, ]+?)(?: from (\\d{4}-\\d\\d-\\d\\d))?");
    private static final Pattern IN_MONTH = Pattern.compile("on the ([a-z]+) ([a-z]+) of the month");
    private static final Pattern WORKING =
            Pattern.compile("on the (?:(\\d{1,2})(?:st|nd|rd|th)|([a-z]+))( from last)? working day of the month");
    private static final Pattern OF_MONTH = Pattern.compile("on day ([0-9, ]+) of the month");
    private static final Pattern RULE = Pattern.compile("rule (\\S+) from (\\S+)", Pattern.CASE_INSENSITIVE);

    private RhythmText() {}

    /**
     * @param calendar whose holidays and working days are meant
     * @throws IllegalArgumentException where it is none of the forms, with the nearest in it
     */
    public static Rhythm read(String text, HolidayCalendar calendar) {
        var plain = text.strip().replaceAll("\\s+", " ");
        if (plain.regionMatches(true, 0, "cron ", 0, 5))
            return new Rhythm.ByCron(CronExpression.of(plain.substring(5)));
        var rule = RULE.matcher(plain);
        if (rule.matches())
            return new Rhythm.ByRule(time(rule.group(2)), rule.group(1).toUpperCase(Locale.ROOT));
        var lower = plain.toLowerCase(Locale.ROOT);
        boolean notOnHolidays = lower.endsWith(NOT_ON_HOLIDAYS);
        if (notOnHolidays) lower = lower.substring(0, lower.length() - NOT_ON_HOLIDAYS.length());
        var at = AT.matcher(lower);
        if (!at.matches()) throw none(plain);
        var months = EnumSet.noneOf(Month.class);
        if (at.group(2) != null) for (var name : listed(at.group(2))) months.add(month(name));
        return new Rhythm.OnDays(days(at.group(1), plain), months, clock(at.group(3)), notOnHolidays, calendar);
    }

    private static DayRule days(String text, String whole) {
        if (text.equals("every day")) return new DayRule.EveryDay();
        if (text.equals("on the last day of the month")) return new DayRule.OfMonth(new TreeSet<>(Set.of(-1)));
        var working = WORKING.matcher(text);
        if (working.matches()) return new DayRule.Working(workingDay(working));
        var inMonth = IN_MONTH.matcher(text);
        if (inMonth.matches()) return new DayRule.InMonth(ordinal(inMonth.group(1)), weekday(inMonth.group(2)));
        var ofMonth = OF_MONTH.matcher(text);
        if (ofMonth.matches())
            return new DayRule.OfMonth(listed(ofMonth.group(1)).stream()
                    .map(RhythmText::number)
                    .collect(Collectors.toCollection(TreeSet::new)));
        var weeks = WEEKS.matcher(text);
        if (!weeks.matches()) throw none(whole);
        var days = EnumSet.noneOf(DayOfWeek.class);
        for (var name : listed(weeks.group(2))) days.add(weekday(name));
        int every = weeks.group(1) == null ? 1 : weeks.group(1).equals("second") ? 2 : number(weeks.group(1));
        if (every > 1 && weeks.group(3) == null)
            throw new IllegalArgumentException(
                    "of every %d weeks say which is the first: every %d weeks on %s from 2027-03-02 at …"
                            .formatted(every, every, weeks.group(2)));
        return new DayRule.Weekly(every, days, every == 1 ? LocalDate.EPOCH : day(weeks.group(3)));
    }

    private static int workingDay(Matcher working) {
        var word = working.group(2);
        int nth = word == null ? number(working.group(1)) : ordinal(word);
        if (working.group(3) == null) return nth;
        return nth == -1 ? -1 : -nth;
    }

    private static int ordinal(String word) {
        if (word.equals("last")) return -1;
        int place = ORDINALS.indexOf(word);
        if (place < 0) throw new IllegalArgumentException("\"" + word + "\" is none of first to fifth and last");
        return place + 1;
    }

    private static List<String> listed(String text) {
        return Arrays.stream(text.split("\\s*(?:,|\\band\\b)\\s*"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .toList();
    }

    private static int number(String text) {
        try {
            return Integer.parseInt(text);
        } catch (NumberFormatException wrong) {
            throw new IllegalArgumentException("\"" + text + "\" is no number", wrong);
        }
    }

    private static DayOfWeek weekday(String name) {
        for (var day : DayOfWeek.values()) if (begins(day.name(), name)) return day;
        throw new IllegalArgumentException("\"" + name + "\" is no day of the week");
    }

    private static Month month(String name) {
        for (var month : Month.values()) if (begins(month.name(), name)) return month;
        throw new IllegalArgumentException("\"" + name + "\" is no month");
    }

    private static boolean begins(String whole, String name) {
        return name.length() >= 3 && whole.toLowerCase(Locale.ROOT).startsWith(name);
    }

    private static LocalTime clock(String text) {
        try {
            return LocalTime.parse(text.length() == 4 ? "0" + text : text);
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + text + "\" is no time of day", wrong);
        }
    }

    private static LocalDate day(String text) {
        try {
            return LocalDate.parse(text);
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + text + "\" is no day such as 2027-03-02", wrong);
        }
    }

    private static LocalDateTime time(String text) {
        try {
            return LocalDateTime.parse(text.toUpperCase(Locale.ROOT));
        } catch (DateTimeException wrong) {
            throw new IllegalArgumentException("\"" + text + "\" is no day and time such as 2027-03-02T22:40", wrong);
        }
    }

    private static IllegalArgumentException none(String text) {
        return new IllegalArgumentException(
                "\"%s\" is not read: say every Tuesday at 22:40, on the second Tuesday of the month at 22:40, cron 40 22 * * 2 and the like"
                        .formatted(text));
    }

    /** As it is said; {@link #read} gives the same again. */
    public static String of(Rhythm rhythm) {
        return switch (rhythm) {
            case Rhythm.ByCron(var expression) -> "cron " + expression;
            case Rhythm.ByRule(var start, var rule) -> "rule " + rule + " from " + start;
            case Rhythm.OnDays(var days, var months, var at, boolean notOnHolidays, var calendar) ->
                words(days)
                        + (months.isEmpty()
                                ? ""
                                : " in "
                                        + names(months.stream()
                                                .map(RhythmText::name)
                                                .toList()))
                        + " at " + at
                        + (notOnHolidays ? NOT_ON_HOLIDAYS : "");
        };
    }

    private static String words(DayRule days) {
        return switch (days) {
            case DayRule.EveryDay() -> "every day";
            case DayRule.Weekly(int every, var some, var from) -> {
                var names = names(some.stream().map(RhythmText::name).toList());
                yield every == 1 ? "every " + names : "every %d weeks on %s from %s".formatted(every, names, from);
            }
            case DayRule.InMonth(int nth, var day) -> "on the %s %s of the month".formatted(nth(nth), name(day));
            case DayRule.OfMonth(var some) ->
                some.equals(new TreeSet<>(Set.of(-1)))
                        ? "on the last day of the month"
                        : "on day " + names(some.stream().map(String::valueOf).toList()) + " of the month";
            case DayRule.Working(int nth) -> "on the %s working day of the month".formatted(working(nth));
        };
    }

    private static String working(int nth) {
        if (nth == -1) return "last";
        int far = Math.abs(nth);
        return (far <= ORDINALS.size() ? ORDINALS.get(far - 1) : far + "th") + (nth < 0 ? " from last" : "");
    }

    private static String nth(int nth) {
        return nth == -1 ? "last" : ORDINALS.get(nth - 1);
    }

    private static String names(List<String> all) {
        return String.join(", ", all);
    }

    private static String name(DayOfWeek day) {
        return day.getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }

    private static String name(Month month) {
        return month.getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }
}
