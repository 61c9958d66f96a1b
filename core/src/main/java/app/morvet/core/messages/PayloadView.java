package app.morvet.core.messages;

import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.util.List;
import java.util.Locale;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;

/**
 * A payload laid out for reading. Payloads are what failed, so they are taken for broken or hostile: nothing outside is
 * fetched, depth and length have limits, and what cannot be laid out is given as it came with a word on why.
 *
 * @param kind    what it was laid out as
 * @param text    the laid-out text; empty for a table
 * @param table   rows of cells, the head first; empty unless a table
 * @param remark  what is wrong with it or was left out; empty when nothing is
 */
public record PayloadView(Kind kind, String text, List<List<String>> table, String remark) {
    /** What is longer is shown as it came, cut; the whole of it can be downloaded. */
    public static final int LONGEST_SHOWN = 256 * 1024;

    static final int DEEPEST = 200;
    private static final int MOST_ROWS = 200;

    public enum Kind {
        XML,
        JSON,
        TABLE,
        TEXT,
        NONE
    }

    /**
     * @param mediaType what the sender called it; unknown and empty ones are shown as text
     */
    public static PayloadView of(String mediaType, String payload) {
        if (payload.isEmpty()) return new PayloadView(Kind.NONE, "", List.of(), "");
        if (payload.length() > LONGEST_SHOWN) {
            return new PayloadView(
                    Kind.TEXT,
                    payload.substring(0, LONGEST_SHOWN),
                    List.of(),
                    "The first %,d of %,d characters; download it to read the rest."
                            .formatted(LONGEST_SHOWN, payload.length()));
        }
        var type = mediaType.toLowerCase(Locale.ROOT);
        if (type.contains("xml")) return xml(payload);
        if (type.contains("json")) return json(payload);
        if (type.contains("csv")) return csv(payload);
        return raw(payload, "");
    }

    private static PayloadView raw(String payload, String remark) {
        return new PayloadView(Kind.TEXT, payload, List.of(), remark);
    }

    private static PayloadView json(String payload) {
        try {
            return new PayloadView(Kind.JSON, JsonLayout.of(payload), List.of(), "");
        } catch (JsonLayout.NotJson bad) {
            return raw(payload, "Shown as it came: not JSON, " + bad.getMessage() + ".");
        }
    }

    private static PayloadView csv(String payload) {
        var format = CSVFormat.DEFAULT
                .builder()
                .setDelimiter(delimiter(payload))
                .setIgnoreEmptyLines(true)
                .get();
        try (var parser = format.parse(new StringReader(payload))) {
            var rows =
                    parser.stream().limit(MOST_ROWS + 1L).map(CSVRecord::toList).toList();
            boolean more = rows.size() > MOST_ROWS;
            var shown = more ? rows.subList(0, MOST_ROWS) : rows;
            int width = shown.isEmpty() ? 0 : shown.getFirst().size();
            var uneven = shown.stream().filter(row -> row.size() != width).findFirst();
            var remark = uneven.map(row -> "Row %d has %d fields where the head has %d. "
                                    .formatted(shown.indexOf(row) + 1, row.size(), width))
                            .orElse("")
                    + (more ? "The first %d rows; download it to read the rest.".formatted(MOST_ROWS) : "");
            return new PayloadView(Kind.TABLE, "", shown, remark.strip());
        } catch (IOException | java.io.UncheckedIOException | IllegalStateException bad) {
            return raw(payload, "Shown as it came: not CSV that can be read.");
        }
    }

    private static char delimiter(String payload) {
        var head = payload.lines().findFirst().orElse("");
        long semicolons = head.chars().filter(c -> c == ';').count();
        long commas = head.chars().filter(c -> c == ',').count();
        return semicolons > commas ? ';' : ',';
    }

    private static PayloadView xml(String payload) {
        var factory = XMLInputFactory.newFactory();
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        try {
            var reader = factory.createXMLStreamReader(new StringReader(payload));
            var out = new StringWriter();
            layOut(reader, out);
            return new PayloadView(Kind.XML, out.toString().strip(), List.of(), "");
        } catch (XMLStreamException bad) {
            var place = bad.getLocation();
            return raw(
                    payload,
                    place == null
                            ? "Shown as it came: XML that is not laid out (" + bad.getMessage() + ")."
                            : "Shown as it came: not well-formed XML at line %d, column %d."
                                    .formatted(place.getLineNumber(), place.getColumnNumber()));
        }
    }

    private static void layOut(XMLStreamReader reader, StringWriter out) throws XMLStreamException {
        int depth = 0;
        boolean textBefore = false;
        while (reader.hasNext()) {
            switch (reader.next()) {
                case XMLStreamConstants.START_ELEMENT -> {
                    if (++depth > DEEPEST) throw new XMLStreamException("nested deeper than " + DEEPEST);
                    out.write("\n" + "  ".repeat(depth - 1) + "<" + name(reader));
                    for (int i = 0; i < reader.getNamespaceCount(); i++) {
                        var prefix = reader.getNamespacePrefix(i);
                        out.write(" xmlns" + (prefix == null ? "" : ":" + prefix) + "=\""
                                + escaped(reader.getNamespaceURI(i)) + "\"");
                    }
                    for (int i = 0; i < reader.getAttributeCount(); i++) {
                        var prefix = reader.getAttributePrefix(i);
                        out.write(" " + (prefix == null || prefix.isEmpty() ? "" : prefix + ":")
                                + reader.getAttributeLocalName(i) + "=\"" + escaped(reader.getAttributeValue(i))
                                + "\"");
                    }
                    out.write(">");
                    textBefore = true;
                }
                case XMLStreamConstants.END_ELEMENT -> {
                    if (!textBefore) out.write("\n" + "  ".repeat(depth - 1));
                    out.write("</" + name(reader) + ">");
                    depth--;
                    textBefore = false;
                }
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
                    if (!reader.isWhiteSpace())
                        out.write(escaped(reader.getText().strip()));
                }
                case XMLStreamConstants.COMMENT ->
                    out.write("\n" + "  ".repeat(depth) + "<!--" + reader.getText() + "-->");
                case XMLStreamConstants.DTD -> throw new XMLStreamException("a document type is not read");
                default -> {
                    // processing instructions and the prolog say nothing about the message
                }
            }
        }
    }

    private static String name(XMLStreamReader reader) {
        var prefix = reader.getPrefix();
        return (prefix == null || prefix.isEmpty() ? "" : prefix + ":") + reader.getLocalName();
    }

    private static String escaped(String text) {
        return text == null
                ? ""
                : text.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
    }
}
