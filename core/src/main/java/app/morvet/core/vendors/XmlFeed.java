package app.morvet.core.vendors;

import java.io.StringReader;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;

/**
 * A feed as Atom (RFC 4287) or RSS 2.0: each entry a bulletin, whose categories say what it is. The state is the worst of what the
 * categories of open trouble mean; when a feed has no open trouble, the instance serves. Documents with a DTD are refused.
 */
final class XmlFeed {
    private static final Pattern INSTANT =
            Pattern.compile("\\d{4}-\\d\\d-\\d\\d[T ]\\d\\d:\\d\\d(?::\\d\\d)?(?:Z|[+-]\\d\\d:\\d\\d)");
    private static final int DEEPEST = 100;
    private static final int LONGEST = 40_000;

    private final FeedSettings settings;
    private final XMLStreamReader xml;
    private final List<String> faults = new ArrayList<>();
    private final List<Bulletin> bulletins = new ArrayList<>();
    private final List<VendorState> open = new ArrayList<>();

    private XmlFeed(FeedSettings settings, XMLStreamReader xml) {
        this.settings = settings;
        this.xml = xml;
    }

    static Reading read(FeedSettings settings, String body, Instant now) {
        var factory = XMLInputFactory.newDefaultFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        try {
            var xml = factory.createXMLStreamReader(new StringReader(body.strip()));
            return new XmlFeed(settings, xml).read();
        } catch (XMLStreamException | RuntimeException unreadable) {
            if (unreadable instanceof FeedSettings.Unreadable said) throw said;
            throw new FeedSettings.Unreadable("The answer is no Atom and no RSS.");
        }
    }

    private Reading read() throws XMLStreamException {
        boolean feed = false;
        int depth = 0;
        while (xml.hasNext()) {
            int next = xml.next();
            if (next == XMLStreamConstants.DTD)
                throw new FeedSettings.Unreadable("The answer has a DTD, which is not read.");
            if (next == XMLStreamConstants.END_ELEMENT) depth--;
            if (next != XMLStreamConstants.START_ELEMENT) continue;
            if (++depth > DEEPEST) throw new FeedSettings.Unreadable("The answer is nested more than 100 deep.");
            var name = xml.getLocalName();
            if (name.equals("feed") || name.equals("rss") || name.equals("RDF")) feed = true;
            if (feed && (name.equals("entry") || name.equals("item"))) {
                entry(name);
                depth--;
            }
        }
        if (!feed) throw new FeedSettings.Unreadable("The answer is no Atom and no RSS.");
        return new Reading(Map.of(Reading.WHOLE, VendorState.worst(open)), bulletins, faults);
    }

    /** One entry, up to its end. */
    private void entry(String end) throws XMLStreamException {
        var id = "";
        var title = "";
        var text = "";
        @Nullable Instant updated = null;
        Set<String> categories = new LinkedHashSet<>();
        while (xml.hasNext()) {
            int next = xml.next();
            if (next == XMLStreamConstants.END_ELEMENT && xml.getLocalName().equals(end)) break;
            if (next != XMLStreamConstants.START_ELEMENT) continue;
            switch (xml.getLocalName()) {
                case "id", "guid" -> id = content();
                case "title" -> title = content();
                case "content", "summary", "description", "encoded" -> {
                    var found = content();
                    if (found.length() > text.length()) text = found;
                }
                case "updated", "pubDate", "date" -> updated = FeedTimes.read(content());
                case "category" -> {
                    var term = xml.getAttributeValue(null, "term");
                    categories.add((term == null ? content() : term).strip().toLowerCase(Locale.ROOT));
                }
                default -> content();
            }
        }
        if (id.isBlank()) faults.add("An entry has no id.");
        else if (bulletins.size() == Reading.MOST_BULLETINS) {
            if (faults.stream().noneMatch(one -> one.startsWith("It has more than")))
                faults.add("It has more than %d bulletins; the rest is left out.".formatted(Reading.MOST_BULLETINS));
        } else take(id, title, JsonFeed.plain(text), updated, categories);
    }

    private void take(String id, String title, String text, @Nullable Instant updated, Set<String> categories) {
        boolean planned = categories.stream().anyMatch(settings.planned()::contains);
        boolean over = categories.stream().anyMatch(settings.over()::contains);
        var times = INSTANT.matcher(text);
        var from = times.find() ? FeedTimes.read(times.group()) : planned ? null : updated;
        var to = from != null && planned && times.find() ? FeedTimes.read(times.group()) : null;
        bulletins.add(new Bulletin(id, planned, title, text, from, to, updated, over, Set.of()));
        if (planned || over) return;
        var means = categories.stream()
                .filter(settings.words()::containsKey)
                .map(settings.words()::get)
                .toList();
        if (means.isEmpty()) {
            faults.add("\"%s\" is trouble, and none of its categories (%s) is known; say what one of them means."
                    .formatted(title, categories.isEmpty() ? "it has none" : String.join(", ", categories)));
            open.add(VendorState.UNKNOWN);
        } else open.addAll(means);
    }

    /** All text within the element at hand, up to its end. */
    private String content() throws XMLStreamException {
        var text = new StringBuilder();
        int depth = 1;
        while (depth > 0 && xml.hasNext()) {
            int next = xml.next();
            if (next == XMLStreamConstants.START_ELEMENT) depth++;
            else if (next == XMLStreamConstants.END_ELEMENT) depth--;
            else if ((next == XMLStreamConstants.CHARACTERS || next == XMLStreamConstants.CDATA)
                    && text.length() < LONGEST) text.append(xml.getText());
            if (depth > DEEPEST) throw new FeedSettings.Unreadable("The answer is nested more than 100 deep.");
        }
        return text.length() <= LONGEST ? text.toString() : text.substring(0, LONGEST);
    }
}
