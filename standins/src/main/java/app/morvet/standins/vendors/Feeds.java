package app.morvet.standins.vendors;

import app.morvet.standins.vendors.Truth.Feed;
import app.morvet.standins.vendors.Truth.Note;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;
import tools.jackson.databind.json.JsonMapper;

/** What the feeds say: one JSON with its functions, one Atom, one JSON with words of its own and a calendar beside it. */
@Component
class Feeds {
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);
    private static final List<String> MOODS = List.of("fine", "limping", "down");
    private static final List<String> COLOURS = List.of("green", "amber", "red");
    private static final List<String> TERMS = List.of("resolved", "degraded-service", "no-service");

    private final Vendors vendors;
    private final JsonMapper json;
    private final Clock clock;

    Feeds(Vendors vendors, JsonMapper json, Clock clock) {
        this.vendors = vendors;
        this.json = json;
        this.clock = clock;
    }

    private Instant made(Truth truth) {
        return truth.feed() == Feed.OLD ? clock.instant().minus(Duration.ofHours(5)) : clock.instant();
    }

    String ostrevia() {
        var truth = vendors.of(Vendor.OSTREVIA);
        var word = truth.feed() == Feed.UNKNOWN_WORD ? "wobbling" : MOODS.get(truth.said());
        var functions = new ArrayList<Map<String, Object>>();
        for (var one : Vendor.OSTREVIA.functions())
            functions.add(
                    Map.of("label", one, "mood", one.equals("import") || truth.said() == 2 ? word : MOODS.get(0)));
        var notes = new ArrayList<Map<String, Object>>();
        for (var note : truth.notes()) {
            var shown = new LinkedHashMap<String, Object>();
            shown.put("ref", note.id());
            shown.put("sort", note.planned() ? "works" : "trouble");
            shown.put("phase", note.closed() ? "closed" : "open");
            shown.put("head", note.title());
            shown.put("body", note.text());
            shown.put("begin", note.from().toString());
            if (note.to() != null) shown.put("end", note.to().toString());
            shown.put("changed", note.updated().toString());
            notes.add(shown);
        }
        var all = new LinkedHashMap<String, Object>();
        all.put("asOf", made(truth).toString());
        all.put("instance", Vendor.OSTREVIA.instance());
        all.put(truth.feed() == Feed.ANOTHER_SHAPE ? "abilities" : "functions", functions);
        all.put("notes", notes);
        return json.writeValueAsString(all);
    }

    String pellaroo() {
        var truth = vendors.of(Vendor.PELLAROO);
        var text = new StringBuilder(
                        "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<feed xmlns=\"http://www.w3.org/2005/Atom\">")
                .append("<id>urn:pellaroo:north-2</id><title>plr-north-2</title><updated>%s</updated>"
                        .formatted(made(truth)));
        for (var note : truth.notes()) {
            var term = note.planned()
                    ? "planned"
                    : truth.feed() == Feed.UNKNOWN_WORD ? "hiccup" : TERMS.get(Math.max(1, truth.said()));
            text.append(
                    "<entry><id>urn:pellaroo:%s</id><title>%s</title><updated>%s</updated><category term=\"%s\"/>%s<content>%s</content></entry>"
                            .formatted(
                                    note.id(),
                                    HtmlUtils.htmlEscape(note.title()),
                                    note.updated(),
                                    term,
                                    note.closed() ? "<category term=\"resolved\"/>" : "",
                                    HtmlUtils.htmlEscape(words(note))));
        }
        return text.append("</feed>").toString();
    }

    private static String words(Note note) {
        return note.to() == null ? note.text() : "From %s to %s. %s".formatted(note.from(), note.to(), note.text());
    }

    String markentide() {
        var truth = vendors.of(Vendor.MARKENTIDE);
        var entries = new ArrayList<Map<String, Object>>();
        for (var note : truth.notes())
            if (!note.planned())
                entries.add(Map.of(
                        "no",
                        note.id(),
                        "line",
                        note.title(),
                        "more",
                        note.text(),
                        "since",
                        note.from().getEpochSecond(),
                        "done",
                        note.closed() ? "yes" : "no"));
        var colour = truth.feed() == Feed.UNKNOWN_WORD ? "mauve" : COLOURS.get(truth.said());
        var pulse = Map.of("colour", colour, "diary", entries);
        return json.writeValueAsString(Map.of(
                "at",
                made(truth).getEpochSecond(),
                truth.feed() == Feed.ANOTHER_SHAPE ? "mk_inv_3" : "mk-inv-3",
                pulse));
    }

    String works() {
        var text = new StringBuilder("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Markentide//works//EN\r\n");
        for (var note : vendors.of(Vendor.MARKENTIDE).notes()) {
            var to = note.to();
            if (to == null) continue;
            text.append(
                    "BEGIN:VEVENT\r\nUID:%s\r\nDTSTAMP:%s\r\nDTSTART:%s\r\nDTEND:%s\r\nSUMMARY:%s\r\nDESCRIPTION:%s\r\n%sEND:VEVENT\r\n"
                            .formatted(
                                    note.id(),
                                    STAMP.format(note.updated()),
                                    STAMP.format(note.from()),
                                    STAMP.format(to),
                                    note.title(),
                                    note.text(),
                                    note.closed() ? "STATUS:CANCELLED\r\n" : ""));
        }
        return text.append("END:VCALENDAR\r\n").toString();
    }
}
