package app.morvet.core.batch;

import java.io.IOException;
import java.io.StringReader;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.Temporal;
import java.util.TreeMap;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.Component;
import net.fortuna.ical4j.model.Period;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.immutable.ImmutableVersion;

/** Holidays from and to iCalendar (RFC 5545): an all-day event is a holiday on each of its days, a recurring one in each year. */
public final class HolidayFile {
    private static final int MOST = 20_000;

    private HolidayFile() {}

    /**
     * @param name what the calendar is called
     * @param from the first day that is taken
     * @param to   the first day that is not taken any more
     * @throws IllegalArgumentException where it is no iCalendar, or an event cannot be read, saying which
     */
    public static HolidayCalendar read(String name, String text, LocalDate from, LocalDate to) {
        Calendar calendar;
        try {
            calendar = new CalendarBuilder().build(new StringReader(text));
        } catch (ParserException bad) {
            throw new IllegalArgumentException(
                    "this is no iCalendar file: line %d is not understood".formatted(bad.getLineNo()), bad);
        } catch (IOException | RuntimeException bad) {
            throw new IllegalArgumentException("this is no iCalendar file: " + bad.getMessage(), bad);
        }
        var holidays = new TreeMap<LocalDate, String>();
        for (var component : calendar.getComponents(Component.VEVENT)) {
            var event = (VEvent) component;
            var words =
                    event.getSummary() == null ? "holiday" : event.getSummary().getValue();
            if (event.getDateTimeStart() == null)
                throw new IllegalArgumentException("\"" + words + "\" has no DTSTART");
            take(event, words, from, to, holidays);
        }
        if (holidays.size() > MOST) throw new IllegalArgumentException("more than %,d holidays".formatted(MOST));
        return new HolidayCalendar(name, holidays);
    }

    private static void take(
            VEvent event, String words, LocalDate from, LocalDate to, TreeMap<LocalDate, String> holidays) {
        try {
            var span = new Period<Temporal>(from, to);
            for (var period : event.<Temporal>calculateRecurrenceSet(span)) {
                var first = day(period.getStart());
                var end = day(period.getEnd());
                for (var day = first; day.equals(first) || day.isBefore(end); day = day.plusDays(1))
                    if (!day.isBefore(from) && day.isBefore(to)) holidays.putIfAbsent(day, words);
            }
        } catch (RuntimeException bad) {
            throw new IllegalArgumentException("\"" + words + "\" cannot be read: " + bad.getMessage(), bad);
        }
    }

    private static LocalDate day(Temporal at) {
        if (at instanceof java.time.Instant instant)
            return instant.atZone(ZoneOffset.UTC).toLocalDate();
        return LocalDate.from(at);
    }

    /** An all-day event for each holiday. */
    public static String write(HolidayCalendar calendar) {
        var file = new Calendar();
        file.add(new ProdId("-//Morvet//Holidays//EN"));
        file.add(ImmutableVersion.VERSION_2_0);
        calendar.holidays().forEach((day, words) -> {
            var event = new VEvent(day, words);
            event.add(new Uid(day + "@morvet"));
            file.add(event);
        });
        return file.toString();
    }
}
