package app.morvet.core.batch;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * The text of an iCalendar file as RFC 5545 wants it, made of what programs and people write: lines may end in a bare LF or
 * CR, folded ones too; blank lines and a byte order mark are passed over; a week begins on Monday where a rule does not say
 * (section 3.3.10), wherever Morvet runs. Dates that are none are refused, since the reading library takes the 30th of
 * February for the 28th.
 */
public final class CalendarText {
    private static final Set<String> WITH_DATES =
            Set.of("DTSTART", "DTEND", "RECURRENCE-ID", "EXDATE", "RDATE", "RRULE");
    private static final Pattern DATE = Pattern.compile("(?<![0-9A-Za-z])(\\d{8})(?=T|Z|[,;/]|$)");
    private static final DateTimeFormatter STRICT =
            DateTimeFormatter.ofPattern("uuuuMMdd").withResolverStyle(ResolverStyle.STRICT);

    private record Line(int number, String text) {
        String name() {
            int end = 0;
            while (end < text.length() && ":;".indexOf(text.charAt(end)) < 0) end++;
            return text.substring(0, end).toUpperCase(Locale.ROOT);
        }
    }

    private CalendarText() {}

    /**
     * The calendars of a file, each by itself; there may be several in one.
     *
     * @throws IllegalArgumentException where there is none, one does not end, or a date is no day, saying in which line
     */
    public static List<String> calendars(String text) {
        var calendars = new ArrayList<String>();
        StringBuilder open = null;
        int begun = 0;
        for (var line : unfolded(text)) {
            var words = line.text().strip().toUpperCase(Locale.ROOT);
            if (words.equals("BEGIN:VCALENDAR")) {
                if (open != null) throw endless(begun);
                open = new StringBuilder();
                begun = line.number();
            }
            if (open == null)
                throw new IllegalArgumentException(
                        "this is no iCalendar file: line %d stands outside of a calendar (BEGIN:VCALENDAR … END:VCALENDAR)"
                                .formatted(line.number()));
            open.append(mended(line)).append("\r\n");
            if (words.equals("END:VCALENDAR")) {
                calendars.add(open.toString());
                open = null;
            }
        }
        if (open != null) throw endless(begun);
        if (calendars.isEmpty()) throw new IllegalArgumentException("this is no iCalendar file: it is empty");
        return calendars;
    }

    private static IllegalArgumentException endless(int begun) {
        return new IllegalArgumentException(
                "this is no iCalendar file: the calendar that begins in line %d has no END:VCALENDAR".formatted(begun));
    }

    private static List<Line> unfolded(String text) {
        var lines = new ArrayList<Line>();
        int number = 0;
        for (var line : text.split("\r\n|\n|\r", -1)) {
            number++;
            if (number == 1 && line.startsWith("\uFEFF")) line = line.substring(1);
            if (line.isBlank()) continue;
            boolean folded = line.charAt(0) == ' ' || line.charAt(0) == '\t';
            if (!folded || lines.isEmpty()) lines.add(new Line(number, line));
            else {
                var before = lines.removeLast();
                lines.add(new Line(before.number(), before.text() + line.substring(1)));
            }
        }
        return lines;
    }

    private static String mended(Line line) {
        var name = line.name();
        if (!WITH_DATES.contains(name)) return line.text();
        int colon = line.text().lastIndexOf(':');
        var value = line.text().substring(colon + 1);
        var dates = DATE.matcher(value);
        while (dates.find()) {
            try {
                LocalDate.parse(dates.group(1), STRICT);
            } catch (DateTimeException none) {
                throw new IllegalArgumentException(
                        "line %d: %s is no day of the calendar".formatted(line.number(), dates.group(1)), none);
            }
        }
        if (name.equals("RRULE"))
            return value.toUpperCase(Locale.ROOT).contains("WKST=") ? line.text() : line.text() + ";WKST=MO";
        boolean bareDate = value.matches("\\d{8}(,\\d{8})*") && line.text().indexOf(';') < 0;
        return bareDate ? name + ";VALUE=DATE:" + value : line.text();
    }
}
