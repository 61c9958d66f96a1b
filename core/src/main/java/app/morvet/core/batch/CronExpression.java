package app.morvet.core.batch;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import java.util.regex.Pattern;

/**
 * A cron expression of five fields: minute, hour, day of month, month, day of week. It says at which wall-clock times of
 * which days something starts; {@link Timetable} turns those into instants.
 *
 * <table>
 * <caption>What a field may say, beside {@code *}, numbers, ranges {@code a-b}, steps {@code /n} and lists with commas</caption>
 * <tr><td>month, day of week</td><td>names of three letters: {@code jan}, {@code mon}; 0, 7 and {@code sun} are the same
 * Sunday, first or last in a range as it needs be ({@code sat-sun}), alone from itself to itself ({@code sun-sun})</td></tr>
 * <tr><td>day of month</td><td>{@code L} the last day, {@code L-3} three days before it, {@code LW} the last weekday,
 * {@code 15W} the weekday nearest to the 15th within the month</td></tr>
 * <tr><td>day of week</td><td>{@code fri#3} the third Friday, {@code friL} the last Friday</td></tr>
 * </table>
 *
 * <p>A step behind a single value goes on to the end of the field: {@code 7/2} is, as {@code sun/2}, every second day from
 * Sunday to Saturday. Where both day fields are given, either of them suffices, as in the crontab of POSIX; where one begins with {@code *},
 * both must hold.
 */
public final class CronExpression {
    private static final List<String> MONTHS =
            List.of("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec");
    private static final List<String> DAYS = List.of("sun", "mon", "tue", "wed", "thu", "fri", "sat");
    private static final Pattern NEAREST = Pattern.compile("(\\d{1,2})w");
    private static final Pattern BEFORE_LAST = Pattern.compile("l-(\\d{1,2})");

    private enum Field {
        MINUTE("minute", 0, 59),
        HOUR("hour", 0, 23),
        DAY("day of month", 1, 31),
        MONTH("month", 1, 12),
        WEEKDAY("day of week", 0, 7);

        private final String words;
        private final int least;
        private final int most;

        Field(String words, int least, int most) {
            this.words = words;
            this.least = least;
            this.most = most;
        }
    }

    private final String text;
    private final BitSet minutes;
    private final BitSet hours;
    private final BitSet months;
    private final Days monthDays;
    private final Days weekDays;

    /** One of the two day fields: a day fits when its plain numbers or one of its rules take it. */
    private record Days(boolean star, BitSet plain, List<Predicate<LocalDate>> rules) {
        boolean fit(int number, LocalDate day) {
            return plain.get(number) || rules.stream().anyMatch(rule -> rule.test(day));
        }
    }

    private CronExpression(String text, String[] fields) {
        this.text = text;
        this.minutes = plain(Field.MINUTE, fields[0]);
        this.hours = plain(Field.HOUR, fields[1]);
        this.monthDays = days(Field.DAY, fields[2]);
        this.months = plain(Field.MONTH, fields[3]);
        this.weekDays = days(Field.WEEKDAY, fields[4]);
    }

    /**
     * @param text five fields with blanks between them, or one of {@code @hourly}, {@code @daily}, {@code @midnight},
     *     {@code @weekly}, {@code @monthly}, {@code @yearly}, {@code @annually}
     * @throws IllegalArgumentException saying which field is wrong and what it may be
     */
    public static CronExpression of(String text) {
        var plain = text.strip().toLowerCase(Locale.ROOT);
        var spelled =
                switch (plain) {
                    case "@hourly" -> "0 * * * *";
                    case "@daily", "@midnight" -> "0 0 * * *";
                    case "@weekly" -> "0 0 * * 0";
                    case "@monthly" -> "0 0 1 * *";
                    case "@yearly", "@annually" -> "0 0 1 1 *";
                    default -> plain;
                };
        var fields = spelled.split("\\s+");
        if (fields.length != 5 || spelled.isEmpty())
            throw new IllegalArgumentException(
                    "a cron expression has five fields (minute, hour, day of month, month, day of week), \"%s\" has %d"
                            .formatted(text.strip(), spelled.isEmpty() ? 0 : fields.length));
        var cron = new CronExpression(text.strip(), fields);
        if (!cron.everFits())
            throw new IllegalArgumentException("\"" + text.strip() + "\" never comes: no such day is in these months");
        return cron;
    }

    /** Within eight years every day of the calendar has come, the 29th of February too. */
    private boolean everFits() {
        var day = LocalDate.of(2024, 1, 1);
        for (int i = 0; i < 366 * 29; i++) if (fits(day.plusDays(i))) return true;
        return false;
    }

    /** Whether it starts at all on a day. */
    public boolean fits(LocalDate day) {
        if (!months.get(day.getMonthValue())) return false;
        boolean inMonth = monthDays.fit(day.getDayOfMonth(), day);
        boolean inWeek = weekDays.fit(day.getDayOfWeek().getValue() % 7, day);
        return monthDays.star() || weekDays.star() ? inMonth && inWeek : inMonth || inWeek;
    }

    /** The times of a day that {@link #fits}, in order. */
    public List<LocalTime> times() {
        var times = new ArrayList<LocalTime>(hours.cardinality() * minutes.cardinality());
        for (int hour = hours.nextSetBit(0); hour >= 0; hour = hours.nextSetBit(hour + 1))
            for (int minute = minutes.nextSetBit(0); minute >= 0; minute = minutes.nextSetBit(minute + 1))
                times.add(LocalTime.of(hour, minute));
        return times;
    }

    /** Whether it runs in every hour, so that it follows elapsed time and not the hands of the clock. */
    public boolean everyHour() {
        return hours.cardinality() == 24;
    }

    private static BitSet plain(Field field, String text) {
        var found = new BitSet(64);
        for (var part : parts(field, text)) take(field, part, found);
        return found;
    }

    private static Days days(Field field, String text) {
        var found = new BitSet(64);
        var rules = new ArrayList<Predicate<LocalDate>>();
        for (var part : parts(field, text)) {
            var rule = field == Field.DAY ? monthRule(part) : weekRule(part);
            if (rule == null) take(field, part, found);
            else rules.add(rule);
        }
        if (field == Field.WEEKDAY && found.get(7)) found.set(0);
        return new Days(text.startsWith("*") || text.equals("?"), found, rules);
    }

    private static List<String> parts(Field field, String text) {
        var parts = List.of(text.split(",", -1));
        if (parts.stream().anyMatch(String::isEmpty)) throw wrong(field, text, "a comma stands between two values");
        return parts;
    }

    private static @org.jspecify.annotations.Nullable Predicate<LocalDate> monthRule(String part) {
        if (part.equals("l")) return day -> day.getDayOfMonth() == day.lengthOfMonth();
        if (part.equals("lw")) return day -> day.equals(nearestWeekday(day, day.lengthOfMonth()));
        var before = BEFORE_LAST.matcher(part);
        if (before.matches()) {
            int back = number(Field.DAY, before.group(1), part);
            if (back > 30) throw wrong(Field.DAY, part, "at most 30 days before the last");
            return day -> day.getDayOfMonth() == day.lengthOfMonth() - back;
        }
        var nearest = NEAREST.matcher(part);
        if (nearest.matches()) {
            int wanted = inRange(Field.DAY, number(Field.DAY, nearest.group(1), part), part);
            return day -> wanted <= day.lengthOfMonth() && day.equals(nearestWeekday(day, wanted));
        }
        return null;
    }

    private static @org.jspecify.annotations.Nullable Predicate<LocalDate> weekRule(String part) {
        int hash = part.indexOf('#');
        if (hash >= 0) {
            int weekday = inRange(Field.WEEKDAY, value(Field.WEEKDAY, part.substring(0, hash), part), part) % 7;
            int nth = number(Field.WEEKDAY, part.substring(hash + 1), part);
            if (nth < 1 || nth > 5) throw wrong(Field.WEEKDAY, part, "# wants 1 to 5 after it");
            return day -> day.getDayOfWeek().getValue() % 7 == weekday && (day.getDayOfMonth() - 1) / 7 + 1 == nth;
        }
        if (part.length() > 1 && part.endsWith("l")) {
            int weekday =
                    inRange(Field.WEEKDAY, value(Field.WEEKDAY, part.substring(0, part.length() - 1), part), part) % 7;
            return day -> day.getDayOfWeek().getValue() % 7 == weekday && day.getDayOfMonth() + 7 > day.lengthOfMonth();
        }
        return null;
    }

    private static LocalDate nearestWeekday(LocalDate month, int wanted) {
        var day = month.withDayOfMonth(wanted);
        if (day.getDayOfWeek() == DayOfWeek.SATURDAY) return wanted == 1 ? day.plusDays(2) : day.minusDays(1);
        if (day.getDayOfWeek() == DayOfWeek.SUNDAY)
            return wanted == day.lengthOfMonth() ? day.minusDays(2) : day.plusDays(1);
        return day;
    }

    /** {@code *}, {@code a}, {@code a-b}, each with a step or not. */
    private static void take(Field field, String part, BitSet into) {
        int slash = part.indexOf('/');
        var range = slash < 0 ? part : part.substring(0, slash);
        int step = slash < 0 ? 1 : step(field, part.substring(slash + 1), part);
        int from;
        int to;
        if (range.equals("*") || range.equals("?") && (field == Field.DAY || field == Field.WEEKDAY)) {
            from = field.least;
            to = field == Field.WEEKDAY ? 6 : field.most;
        } else {
            int dash = range.indexOf('-');
            from = inRange(field, value(field, dash < 0 ? range : range.substring(0, dash), part), part);
            to = dash < 0
                    ? slash < 0 ? from : field == Field.WEEKDAY ? 6 : field.most
                    : inRange(field, value(field, range.substring(dash + 1), part), part);
            if (field == Field.WEEKDAY && dash < 0 && slash >= 0) from %= 7;
            if (field == Field.WEEKDAY && dash >= 0 && to == 0 && from > 0) to = 7;
            if (to < from) throw wrong(field, part, "a range goes from the lower to the higher");
        }
        for (int value = from; value <= to; value += step) into.set(value);
    }

    private static int step(Field field, String text, String whole) {
        if (text.isEmpty() || !text.chars().allMatch(c -> c >= '0' && c <= '9') || text.matches("0*"))
            throw wrong(field, whole, "a step is a whole number of 1 or more");
        if (text.length() > 4)
            throw wrong(
                    field,
                    whole,
                    "a step of %s is longer than the field, which ends at %d".formatted(text, field.most));
        return Integer.parseInt(text);
    }

    private static int value(Field field, String text, String whole) {
        var names = field == Field.MONTH ? MONTHS : field == Field.WEEKDAY ? DAYS : List.<String>of();
        int name = names.indexOf(text);
        return name < 0 ? number(field, text, whole) : field == Field.MONTH ? name + 1 : name;
    }

    private static int number(Field field, String text, String whole) {
        if (text.isEmpty() || text.length() > 4 || !text.chars().allMatch(c -> c >= '0' && c <= '9'))
            throw wrong(field, whole, "it may be %d to %d%s".formatted(field.least, field.most, named(field)));
        return Integer.parseInt(text);
    }

    private static String named(Field field) {
        return switch (field) {
            case MONTH -> ", or jan to dec";
            case WEEKDAY -> " (0 and 7 are Sunday), sun to sat, fri#3 or friL";
            case DAY -> ", L, L-3, LW or 15W";
            case MINUTE, HOUR -> "";
        };
    }

    private static int inRange(Field field, int value, String whole) {
        if (value < field.least || value > field.most)
            throw wrong(field, whole, "it may be %d to %d%s".formatted(field.least, field.most, named(field)));
        return value;
    }

    private static IllegalArgumentException wrong(Field field, String part, String why) {
        return new IllegalArgumentException("the %s \"%s\" is wrong: %s".formatted(field.words, part, why));
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof CronExpression cron && cron.text.equals(text);
    }

    @Override
    public int hashCode() {
        return text.hashCode();
    }

    /** As it was written. */
    @Override
    public String toString() {
        return text;
    }
}
