package app.morvet.core.windows;

import app.morvet.core.batch.CalendarText;
import java.io.IOException;
import java.io.StringReader;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Component;
import net.fortuna.ical4j.model.Parameter;
import net.fortuna.ical4j.model.Property;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.DateListProperty;
import net.fortuna.ical4j.model.property.DateProperty;
import net.fortuna.ical4j.model.property.Uid;
import org.jspecify.annotations.Nullable;

/**
 * Planned work as somebody else's calendar has it (iCalendar, RFC 5545): each event, once or recurring, with times that are left out
 * (EXDATE), added (RDATE) or moved (RECURRENCE-ID), as the {@link Plan} of a window. Times without a zone, and whole days, are in a zone
 * that is given.
 */
public final class WorkCalendar {
    private static final int MOST = 2000;
    private static final int LONGEST_TITLE = 200;
    private static final int LONGEST_TEXT = 4000;
    private static final String OF_THE_LIBRARY = "ical4j";
    private static final Pattern UNTIL = Pattern.compile("UNTIL=(\\d{8})(?:T(\\d{6})(Z?))?", Pattern.CASE_INSENSITIVE);
    private static final DateTimeFormatter BASIC = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");

    private WorkCalendar() {}

    /**
     * Work as the calendar has it.
     *
     * @param uid  tells it from others of the calendar, whenever it is read
     * @param plan when it is; null where it is cancelled
     */
    public record Work(String uid, String title, String text, @Nullable Plan plan) {
        /** What rules look at. */
        public String words() {
            return title + "\n" + text;
        }
    }

    /** @param faults what could not be taken, each naming its event; what could be is taken all the same */
    public record Read(List<Work> work, List<String> faults) {}

    /** One VEVENT. */
    private record Event(VEvent source, String uid, String title, Start start, Duration length, boolean cancelled) {}

    /** A begin: on the wall of a zone. */
    private record Start(LocalDateTime wall, ZoneId zone, boolean wholeDay) {
        Instant at() {
            return wall.atZone(zone).toInstant();
        }
    }

    /**
     * @param zone of times that name none
     * @throws IllegalArgumentException where it is no iCalendar
     */
    public static Read read(String text, ZoneId zone) {
        var faults = new ArrayList<String>();
        var byId = new LinkedHashMap<String, List<Event>>();
        int count = 0;
        for (var one : CalendarText.calendars(text))
            for (var component : parsed(one)) {
                if (++count > MOST) {
                    if (count == MOST + 1)
                        faults.add("It has more than %,d events; the rest is left out.".formatted(MOST));
                    continue;
                }
                try {
                    var event = event((VEvent) component, zone);
                    byId.computeIfAbsent(event.uid(), none -> new ArrayList<>()).add(event);
                } catch (DateTimeException | IllegalArgumentException wrong) {
                    faults.add("\"%s\" is left out: %s.".formatted(title((VEvent) component), wrong.getMessage()));
                }
            }
        var work = new ArrayList<Work>();
        byId.forEach((uid, events) -> {
            try {
                work.add(work(uid, events, zone));
            } catch (DateTimeException | IllegalArgumentException wrong) {
                faults.add("\"%s\" is left out: %s.".formatted(events.getFirst().title(), wrong.getMessage()));
            }
        });
        return new Read(List.copyOf(work), List.copyOf(faults));
    }

    private static List<? extends Component> parsed(String text) {
        try {
            return new CalendarBuilder().build(new StringReader(text)).getComponents(Component.VEVENT);
        } catch (ParserException | IOException | RuntimeException bad) {
            throw new IllegalArgumentException("this is no iCalendar file: " + bad.getMessage(), bad);
        }
    }

    private static String title(VEvent event) {
        var title = value(event, Property.SUMMARY).strip();
        return title.isEmpty() ? "an event without a title" : cut(title.replaceAll("\\s+", " "), LONGEST_TITLE);
    }

    private static String value(VEvent event, String property) {
        return event.getProperty(property).map(Property::getValue).orElse("");
    }

    private static String cut(String text, int longest) {
        return text.length() <= longest ? text : text.substring(0, longest);
    }

    private static Event event(VEvent source, ZoneId zone) {
        var uid = source.getUid().map(Uid::getValue).orElse("");
        if (uid.isBlank()) throw new IllegalArgumentException("it has no UID");
        if (source.getDateTimeStart() == null) throw new IllegalArgumentException("it has no DTSTART");
        var called = source.getDateTimeStart().getParameter(Parameter.TZID).map(Parameter::getValue);
        var start = named(start(source.getDateTimeStart().getDate(), zone), called.orElse(""), zone);
        return new Event(
                source,
                cut(uid, LONGEST_TITLE),
                title(source),
                start,
                length(source, start, zone),
                "CANCELLED".equalsIgnoreCase(value(source, Property.STATUS)));
    }

    private static Start start(@Nullable Temporal at, ZoneId zone) {
        return switch (at) {
            case Instant instant -> new Start(LocalDateTime.ofInstant(instant, ZoneOffset.UTC), ZoneOffset.UTC, false);
            case ZonedDateTime zoned -> new Start(zoned.toLocalDateTime(), zoned.getZone(), false);
            case OffsetDateTime offset -> new Start(offset.toLocalDateTime(), offset.getOffset(), false);
            case LocalDateTime local -> new Start(local, zone, false);
            case LocalDate day -> new Start(day.atStartOfDay(), zone, true);
            case null, default -> throw new IllegalArgumentException("its begin cannot be read");
        };
    }

    /**
     * The same begin in a zone by a name that everybody knows: the library gives one that a file describes, or merely names, a name
     * that holds until the process ends. What the file calls it is tried first, then ours, then all others that show the same times
     * for two years.
     */
    private static Start named(Start start, String called, ZoneId ours) {
        if (!start.zone().getId().startsWith(OF_THE_LIBRARY)) return start;
        var from = start.at();
        var zone = Stream.concat(
                        Stream.of(called, ours.getId()),
                        ZoneId.getAvailableZoneIds().stream().sorted())
                .filter(id -> !id.startsWith(OF_THE_LIBRARY)
                        && ZoneId.getAvailableZoneIds().contains(id))
                .map(ZoneId::of)
                .filter(one -> alike(start.zone(), one, from))
                .findFirst()
                .orElseThrow(() ->
                        new IllegalArgumentException("its time zone \"" + called + "\" is like none that is known"));
        return new Start(start.wall(), zone, start.wholeDay());
    }

    private static boolean alike(ZoneId one, ZoneId other, Instant from) {
        for (int week = 0; week < 104; week++) {
            var at = from.plus(Duration.ofDays(7L * week));
            if (!one.getRules().getOffset(at).equals(other.getRules().getOffset(at))) return false;
        }
        return true;
    }

    private static Duration length(VEvent source, Start start, ZoneId zone) {
        Duration length;
        var end = source.<DateProperty<?>>getProperty(Property.DTEND).map(DateProperty::getDate);
        if (end.isPresent()) {
            length = Duration.between(start.at(), start(end.get(), zone).at());
        } else {
            var said = value(source, Property.DURATION);
            length = said.isEmpty() ? (start.wholeDay() ? Duration.ofDays(1) : Duration.ZERO) : spoken(said);
        }
        if (length.compareTo(Duration.ofMinutes(1)) < 0)
            throw new IllegalArgumentException("it does not say how long it lasts");
        if (length.compareTo(Plan.LONGEST) > 0) throw new IllegalArgumentException("it lasts longer than 14 days");
        return length;
    }

    /** RFC 5545 has weeks, which {@link Duration} does not read. */
    private static Duration spoken(String said) {
        var weeks = Pattern.compile("\\+?P(\\d{1,3})W").matcher(said);
        return weeks.matches() ? Duration.ofDays(7L * Integer.parseInt(weeks.group(1))) : Duration.parse(said);
    }

    /** All that share an id: one that may recur, and what became of single times of it. */
    private static Work work(String uid, List<Event> events, ZoneId zone) {
        var master = events.stream()
                .filter(one -> inPlaceOf(one).isEmpty())
                .findFirst()
                .orElse(events.getFirst());
        var text = cut(value(master.source(), Property.DESCRIPTION), LONGEST_TEXT);
        var place = value(master.source(), Property.LOCATION).strip();
        return new Work(
                uid,
                master.title(),
                place.isEmpty() ? text : (text + "\n" + cut(place, LONGEST_TITLE)).strip(),
                master.cancelled() ? null : plan(master, events, zone));
    }

    private static Optional<DateProperty<?>> inPlaceOf(Event one) {
        return one.source().getProperty(Property.RECURRENCE_ID);
    }

    /** An instant as the wall of the event's zone shows it. */
    private static LocalDateTime onWall(Temporal at, ZoneId of, ZoneId zone) {
        var start = start(at, zone);
        return at instanceof LocalDateTime || at instanceof LocalDate
                ? start.wall()
                : LocalDateTime.ofInstant(start.at(), of);
    }

    private static Plan plan(Event master, List<Event> events, ZoneId zone) {
        var start = master.start();
        var rule = value(master.source(), Property.RRULE);
        var added = dates(master, Property.RDATE, zone);
        if (rule.isEmpty() && added.isEmpty())
            return Plan.once(start.at(), start.at().plus(master.length()), start.zone());
        var rhythm =
                new Rhythm.ByRule(start.wall(), rule.isEmpty() ? "FREQ=DAILY;COUNT=1" : wallRule(rule, start.zone()));
        var skipped = new TreeSet<>(dates(master, Property.EXDATE, zone));
        Map<LocalDateTime, Plan.Span> altered = new TreeMap<>();
        for (var begin : added) {
            var from = begin.atZone(start.zone()).toInstant();
            altered.put(begin, new Plan.Span(from, from.plus(master.length())));
        }
        for (var one : events) {
            var instead = inPlaceOf(one);
            if (instead.isEmpty()) continue;
            if (instead.get().getParameter(Parameter.RANGE).isPresent())
                throw new IllegalArgumentException("a change of all later times at once (RANGE) is not read");
            var meant = onWall(instead.get().getDate(), start.zone(), zone);
            altered.remove(meant);
            if (one.cancelled()) skipped.add(meant);
            else
                altered.put(
                        meant, new Plan.Span(one.start().at(), one.start().at().plus(one.length())));
        }
        return new Plan(null, rhythm, start.zone(), master.length(), null, skipped, altered);
    }

    private static List<LocalDateTime> dates(Event one, String property, ZoneId zone) {
        return one.source().<DateListProperty<?>>getProperties(property).stream()
                .flatMap(it -> it.getDates().stream())
                .map(at -> onWall((Temporal) at, one.start().zone(), zone))
                .toList();
    }

    /** With its end, if any, as the wall of a zone shows it. */
    private static String wallRule(String rule, ZoneId zone) {
        var until = UNTIL.matcher(rule);
        if (!until.find()) return rule;
        LocalDateTime end;
        if (until.group(2) == null)
            end = LocalDate.parse(until.group(1), DateTimeFormatter.BASIC_ISO_DATE)
                    .atTime(23, 59, 59);
        else {
            var local = LocalDateTime.parse(until.group(1) + "T" + until.group(2), BASIC);
            end = until.group(3).isEmpty() ? local : LocalDateTime.ofInstant(local.toInstant(ZoneOffset.UTC), zone);
        }
        return until.replaceFirst("UNTIL=" + BASIC.format(end));
    }
}
