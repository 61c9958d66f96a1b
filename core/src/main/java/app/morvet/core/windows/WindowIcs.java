package app.morvet.core.windows;

import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import net.fortuna.ical4j.data.CalendarOutputter;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.Description;
import net.fortuna.ical4j.model.property.DtStamp;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.Url;
import net.fortuna.ical4j.model.property.immutable.ImmutableVersion;

/** The times of windows as iCalendar (RFC 5545), each an event of its own, in UTC: whatever reads it shows the very same times. */
public final class WindowIcs {
    private WindowIcs() {}

    /**
     * @param id   the same for the same time of the same window, whenever it is written
     * @param page where it can be looked at
     */
    public record Event(String id, String name, String words, String page, Plan.Span span) {}

    /** @param at when it is written */
    public static String write(List<Event> events, Instant at) {
        var calendar = new Calendar();
        calendar.add(new ProdId("-//Morvet//Windows//EN"));
        calendar.add(ImmutableVersion.VERSION_2_0);
        for (var one : events) {
            var event = new VEvent(one.span().from(), one.span().to(), one.name());
            event.replace(new DtStamp(at));
            event.add(new Uid(one.id()));
            event.add(new Description(one.words()));
            event.add(new Url(URI.create(one.page())));
            calendar.add(event);
        }
        var text = new StringWriter();
        try {
            new CalendarOutputter(false).output(calendar, text);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return text.toString();
    }
}
