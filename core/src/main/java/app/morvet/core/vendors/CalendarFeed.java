package app.morvet.core.vendors;

import java.io.IOException;
import java.io.StringReader;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.Map;
import java.util.Set;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Component;
import net.fortuna.ical4j.model.Property;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.Uid;
import org.jspecify.annotations.Nullable;

/** A feed as iCalendar (RFC 5545): each event is planned work. It tells of no state. */
final class CalendarFeed {
    private CalendarFeed() {}

    static Reading read(String body, Instant now) {
        var bulletins = new ArrayList<Bulletin>();
        var faults = new ArrayList<String>();
        try {
            var calendar = new CalendarBuilder().build(new StringReader(body));
            for (var component : calendar.getComponents(Component.VEVENT)) {
                if (bulletins.size() == Reading.MOST_BULLETINS) {
                    faults.add("It has more than %d events; the rest is left out.".formatted(Reading.MOST_BULLETINS));
                    break;
                }
                var read = bulletin((VEvent) component);
                if (read == null) faults.add("An event has no UID or no begin.");
                else bulletins.add(read);
            }
        } catch (ParserException | IOException | RuntimeException unreadable) {
            throw new FeedSettings.Unreadable("The answer is no iCalendar.");
        }
        return new Reading(Map.of(), bulletins, faults);
    }

    private static @Nullable Bulletin bulletin(VEvent event) {
        var uid = event.getUid().map(Uid::getValue).orElse("");
        var start = event.getDateTimeStart() == null
                ? null
                : instant(event.getDateTimeStart().getDate());
        if (uid.isBlank() || start == null) return null;
        var end = event.getEndDate(true).map(it -> instant(it.getDate())).orElse(null);
        return new Bulletin(
                uid,
                true,
                value(event, Property.SUMMARY),
                value(event, Property.DESCRIPTION),
                start,
                end == null || !end.isAfter(start) ? null : end,
                null,
                "CANCELLED".equalsIgnoreCase(value(event, Property.STATUS)),
                Set.of());
    }

    private static String value(VEvent event, String property) {
        return event.getProperty(property).map(Property::getValue).orElse("");
    }

    private static @Nullable Instant instant(@Nullable Temporal at) {
        return switch (at) {
            case null -> null;
            case Instant instant -> instant;
            case ZonedDateTime zoned -> zoned.toInstant();
            case OffsetDateTime offset -> offset.toInstant();
            case LocalDateTime local -> local.toInstant(ZoneOffset.UTC);
            case LocalDate day -> day.atStartOfDay().toInstant(ZoneOffset.UTC);
            default -> null;
        };
    }
}
