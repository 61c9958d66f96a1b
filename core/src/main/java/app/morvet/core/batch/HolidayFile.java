package app.morvet.core.batch;

import java.io.IOException;
import java.io.StringReader;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.Component;
import net.fortuna.ical4j.model.Parameter;
import net.fortuna.ical4j.model.Period;
import net.fortuna.ical4j.model.Property;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.immutable.ImmutableVersion;
import org.jspecify.annotations.Nullable;

/**
 * Holidays from and to iCalendar (RFC 5545): an all-day event is a holiday on each of its days, a recurring one in each
 * year. What is cancelled is none; an occurrence that was moved (RECURRENCE-ID) is one on its new day only. An event with a
 * time of day is an appointment and no holiday: it is left out, and named.
 */
public final class HolidayFile {
    private static final int MOST = 20_000;

    /** The longest single holiday, and how far before a span one may begin that reaches into it. */
    private static final int LONGEST_DAYS = 366;

    private HolidayFile() {}

    /**
     * What a file says.
     *
     * @param leftOut the names of events that are no holidays, since they have a time of day
     */
    public record Reading(HolidayCalendar calendar, List<String> leftOut) {}

    /** An event of a file: one that recurs or not, or what became of one occurrence of another. */
    private record Event(String uid, String words, LocalDate start, LocalDate end, boolean cancelled, VEvent source) {
        /** Which occurrence of another it stands in place of. */
        @Nullable
        LocalDate inPlaceOf() {
            return date(source, Property.RECURRENCE_ID).orElse(null);
        }

        /** Whether it says so of all later occurrences, too. */
        boolean onwards() {
            return source.getProperty(Property.RECURRENCE_ID)
                    .flatMap(id -> id.getParameter(Parameter.RANGE))
                    .isPresent();
        }
    }

    /**
     * @param name what the calendar is called
     * @param from the first day that is taken
     * @param to   the first day that is not taken any more
     * @throws IllegalArgumentException where it is no iCalendar, or an event cannot be read, saying which
     */
    public static Reading read(String name, String text, LocalDate from, LocalDate to) {
        var holidays = new TreeMap<LocalDate, String>();
        var leftOut = new ArrayList<String>();
        for (var one : CalendarText.calendars(text)) {
            var byId = new LinkedHashMap<String, List<Event>>();
            for (var component : parsed(one).getComponents(Component.VEVENT)) {
                var event = event((VEvent) component, byId.size());
                if (event == null) leftOut.add(words((VEvent) component));
                else
                    byId.computeIfAbsent(event.uid(), none -> new ArrayList<>()).add(event);
            }
            byId.values().forEach(events -> take(events, from, to, holidays));
        }
        if (holidays.size() > MOST) throw new IllegalArgumentException("more than %,d holidays".formatted(MOST));
        return new Reading(new HolidayCalendar(name, holidays), List.copyOf(leftOut));
    }

    private static Calendar parsed(String text) {
        try {
            return new CalendarBuilder().build(new StringReader(text));
        } catch (ParserException bad) {
            throw new IllegalArgumentException("this is no iCalendar file: " + bad.getMessage(), bad);
        } catch (IOException | RuntimeException bad) {
            throw new IllegalArgumentException("this is no iCalendar file: " + bad.getMessage(), bad);
        }
    }

    /** Null for an event with a time of day. */
    private static @Nullable Event event(VEvent source, int number) {
        var words = words(source);
        if (source.getDateTimeStart() == null) throw new IllegalArgumentException("\"" + words + "\" has no DTSTART");
        if (!(source.getDateTimeStart().getDate() instanceof LocalDate start)) return null;
        var end = date(source, Property.DTEND)
                .or(() -> source.getProperty(Property.DURATION)
                        .map(length -> start.plus(java.time.Period.parse(dayLength(length.getValue(), words)))))
                .filter(day -> day.isAfter(start))
                .orElse(start.plusDays(1));
        if (end.isAfter(start.plusDays(LONGEST_DAYS)))
            throw new IllegalArgumentException("\"" + words + "\" is longer than a year");
        boolean cancelled = source.getProperty(Property.STATUS)
                .filter(status -> "CANCELLED".equalsIgnoreCase(status.getValue()))
                .isPresent();
        return new Event(
                source.getUid().map(Uid::getValue).orElse("without an id " + number),
                words,
                start,
                end,
                cancelled,
                source);
    }

    private static String words(VEvent event) {
        return event.getSummary() == null ? "holiday" : event.getSummary().getValue();
    }

    private static String dayLength(String duration, String words) {
        if (!duration.matches("\\+?P\\d{1,3}[DW]"))
            throw new IllegalArgumentException("\"" + words + "\" cannot be read: the length \"" + duration
                    + "\" of an event of whole days is whole days, such as P1D");
        return duration.replace("+", "");
    }

    private static Optional<LocalDate> date(VEvent event, String property) {
        return event.<net.fortuna.ical4j.model.property.DateProperty<?>>getProperty(property)
                .map(it -> day(it.getDate()));
    }

    /** All that share an id: one that may recur, and what became of single occurrences. */
    private static void take(List<Event> events, LocalDate from, LocalDate to, TreeMap<LocalDate, String> holidays) {
        var changed = new TreeMap<LocalDate, Event>();
        for (var event : events) {
            var instead = event.inPlaceOf();
            if (instead != null) changed.put(instead, event);
        }
        for (var event : events) {
            if (event.cancelled()) continue;
            if (event.inPlaceOf() != null) {
                add(event.words(), event.start(), event, from, to, holidays);
                continue;
            }
            for (var start : occurrences(event, from, to)) {
                if (changed.containsKey(start)) continue;
                var before = changed.floorEntry(start);
                while (before != null && !before.getValue().onwards()) before = changed.lowerEntry(before.getKey());
                if (before == null) add(event.words(), start, event, from, to, holidays);
                else if (!before.getValue().cancelled()) {
                    var later = before.getValue();
                    long moved = ChronoUnit.DAYS.between(before.getKey(), later.start());
                    add(later.words(), start.plusDays(moved), later, from, to, holidays);
                }
            }
        }
    }

    private static void add(
            String words,
            LocalDate start,
            Event as,
            LocalDate from,
            LocalDate to,
            TreeMap<LocalDate, String> holidays) {
        long days = ChronoUnit.DAYS.between(as.start(), as.end());
        for (var day = start; day.isBefore(start.plusDays(days)); day = day.plusDays(1))
            if (!day.isBefore(from) && day.isBefore(to)) holidays.putIfAbsent(day, words);
    }

    private static List<LocalDate> occurrences(Event event, LocalDate from, LocalDate to) {
        try {
            // A long one, or one that is moved into the span, begins before it.
            var span = new Period<Temporal>(from.minusDays(LONGEST_DAYS), to.plusDays(LONGEST_DAYS));
            return event.source().<Temporal>calculateRecurrenceSet(span).stream()
                    .map(period -> day(period.getStart()))
                    .distinct()
                    .sorted()
                    .toList();
        } catch (RuntimeException bad) {
            throw new IllegalArgumentException("\"" + event.words() + "\" cannot be read: " + bad.getMessage(), bad);
        }
    }

    private static LocalDate day(Temporal at) {
        return at instanceof java.time.Instant instant
                ? instant.atZone(java.time.ZoneOffset.UTC).toLocalDate()
                : LocalDate.from(at);
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
