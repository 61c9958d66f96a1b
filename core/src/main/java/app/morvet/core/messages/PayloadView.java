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
import org.jspecify.annotations.Nullable;

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
    /** Where the failing part begins and ends in a text: characters of the private use area, which no payload keeps. */
    static final char MARK = '\uE000';

    static final char END_MARK = '\uE001';

    /** A piece of a text: what failed, or what stands around it. */
    public record Piece(String text, boolean failing) {}

    private static final int HEX_SHOWN = 8 * 1024;

    /** What is longer is shown as it came, cut; the whole of it can be downloaded. */
    public static final int LONGEST_SHOWN = 256 * 1024;

    private static final int MOST_ROWS = 200;
    private static final int MOST_COLUMNS = 100;

    /** Laid out, what is deep and short takes many times its length. */
    static final int LONGEST_LAID_OUT = 4 * LONGEST_SHOWN;

    static final String TOO_LONG = "laid out it is longer than %,d characters".formatted(LONGEST_LAID_OUT);

    public enum Kind {
        XML,
        JSON,
        TABLE,
        TEXT,
        HEX,
        NONE
    }

    /**
     * So much more is handed in where a payload is longer than what is shown, so that a value that stands across the cut is
     * seen whole and hidden if it is to be.
     */
    public static final int MARGIN = 4096;

    /** What is handed in of a payload, however long that is. */
    public static final int LONGEST_READ = LONGEST_SHOWN + MARGIN;

    /**
     * A payload with what is masked hidden and the part that the error names marked.
     *
     * @param mediaType what the sender called it
     * @param payload   at least its first {@link #LONGEST_READ} characters
     * @param length    of the whole payload, in characters
     * @param error     the error text
     */
    public static PayloadView of(String mediaType, String payload, long length, Masking masking, String error) {
        if (payload.isEmpty()) return of(mediaType, payload);
        var read = payload.length() > LONGEST_READ ? payload.substring(0, LONGEST_READ) : payload;
        var text = read.replace(MARK, '\uFFFD').replace(END_MARK, '\uFFFD');
        var found = masking.hidden(mediaType, text);
        var scan = found.scan();
        var hidden = found.places().stream()
                .filter(place -> place[0] < LONGEST_SHOWN)
                .toList();
        int shown = Math.min(text.length(), LONGEST_SHOWN);
        var failing = FailingPart.of(error, mediaType, text)
                .filter(part -> part.end() <= shown)
                .filter(part ->
                        !part.line() || scan.format() == PayloadScan.Format.TEXT || scan.readTo() < text.length());
        var whole = marked(text, shown, scan, hidden, failing.orElse(null));
        var view = length > LONGEST_SHOWN
                ? new PayloadView(Kind.TEXT, whole, List.of(), cut(length))
                : of(mediaType, whole);
        if (failing.isPresent() && view.remark().startsWith("Shown as it came")) {
            // With the marks in it a broken payload would be told to be broken elsewhere.
            view = view.saying(of(mediaType, payload).remark());
        }
        if (hidden.isEmpty()) return view;
        boolean unread = scan.readTo() < text.length()
                && hidden.getLast()[0] <= scan.readTo()
                && hidden.getLast()[1] == text.length();
        return view.saying((view.remark()
                        + (hidden.size() == 1
                                ? " 1 field is hidden."
                                : " %,d fields are hidden.".formatted(hidden.size()))
                        + (unread ? " What cannot be read is hidden whole." : ""))
                .strip());
    }

    /** The same of a payload that is there as a whole. */
    public static PayloadView of(String mediaType, String payload, Masking masking, String error) {
        return of(mediaType, payload, payload.length(), masking, error);
    }

    private PayloadView saying(String other) {
        return new PayloadView(kind, text, table, other);
    }

    private static String cut(long length) {
        return "The first %,d of %,d characters; download it to read the rest.".formatted(LONGEST_SHOWN, length);
    }

    private static String marked(
            String text, int shown, PayloadScan scan, List<int[]> hidden, @Nullable FailingPart failing) {
        int from = -1;
        int to = -1;
        if (failing != null) {
            boolean quoted = scan.format() != PayloadScan.Format.XML
                    && failing.end() - failing.start() > 1
                    && text.charAt(failing.start()) == '"'
                    && text.charAt(failing.end() - 1) == '"';
            from = failing.start() + (quoted ? 1 : 0);
            to = failing.end() - (quoted ? 1 : 0);
        }
        var out = new StringBuilder(text.length() + 64);
        int next = 0;
        for (int i = 0; i <= shown; ) {
            if (next < hidden.size() && hidden.get(next)[0] == i) {
                var range = hidden.get(next++);
                boolean failed = from >= range[0] && from <= range[1];
                var by = Masking.replacement(scan, i);
                out.append(failed ? by.replace(Masking.HIDDEN, MARK + Masking.HIDDEN + END_MARK) : by);
                if (failed) from = to = -1;
                if (to > i && to <= range[1]) {
                    out.append(END_MARK);
                    to = -1;
                }
                i = range[1];
                if (i >= shown && next >= hidden.size()) break;
                continue;
            }
            if (i == from) out.append(MARK);
            if (i == to) out.append(END_MARK);
            if (i < shown) out.append(text.charAt(i));
            i++;
        }
        return out.toString();
    }

    /** Bytes that are no text, as offsets, pairs of hexadecimal digits and characters; the first of them. */
    public static PayloadView hex(byte[] bytes) {
        var out = new StringBuilder();
        int shown = Math.min(bytes.length, HEX_SHOWN);
        for (int row = 0; row < shown; row += 16) {
            var digits = new StringBuilder();
            var letters = new StringBuilder();
            for (int i = row; i < Math.min(row + 16, shown); i++) {
                digits.append("%02x ".formatted(bytes[i]));
                letters.append(bytes[i] >= 0x20 && bytes[i] < 0x7f ? (char) bytes[i] : '·');
            }
            out.append("%08x  %-48s  %s%n".formatted(row, digits, letters));
        }
        return new PayloadView(
                Kind.HEX,
                out.toString(),
                List.of(),
                bytes.length > shown
                        ? "The first %,d of %,d bytes; download it to read the rest.".formatted(shown, bytes.length)
                        : "");
    }

    /** The text in pieces, what failed apart from what stands around it. */
    public List<Piece> pieces() {
        return pieces(text);
    }

    /** A cell of the table, or the text, in pieces. */
    public static List<Piece> pieces(String text) {
        var pieces = new java.util.ArrayList<Piece>();
        int at = 0;
        while (at < text.length()) {
            int open = text.indexOf(MARK, at);
            if (open < 0) break;
            int close = text.indexOf(END_MARK, open);
            if (close < 0) close = text.length();
            if (open > at) pieces.add(new Piece(text.substring(at, open), false));
            if (close > open + 1) pieces.add(new Piece(text.substring(open + 1, close), true));
            at = Math.min(text.length(), close + 1);
        }
        if (at < text.length()) pieces.add(new Piece(text.substring(at), false));
        return pieces;
    }

    /**
     * @param mediaType what the sender called it; unknown and empty ones are shown as text
     */
    public static PayloadView of(String mediaType, String payload) {
        if (payload.isEmpty()) return new PayloadView(Kind.NONE, "", List.of(), "");
        if (payload.length() > LONGEST_SHOWN) {
            return new PayloadView(Kind.TEXT, payload.substring(0, LONGEST_SHOWN), List.of(), cut(payload.length()));
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
            return raw(payload, "Shown as it came: " + bad.getMessage() + ".");
        }
    }

    private static PayloadView csv(String payload) {
        var format = CSVFormat.DEFAULT
                .builder()
                .setDelimiter(TableFields.delimiter(payload))
                .setIgnoreEmptyLines(true)
                .get();
        try (var parser = format.parse(new StringReader(payload.substring(TableFields.begin(payload))))) {
            var rows =
                    parser.stream().limit(MOST_ROWS + 1L).map(CSVRecord::toList).toList();
            boolean wide = rows.stream().anyMatch(row -> row.size() > MOST_COLUMNS);
            boolean more = rows.size() > MOST_ROWS;
            var shown = more ? rows.subList(0, MOST_ROWS) : rows;
            int width = shown.isEmpty() ? 0 : shown.getFirst().size();
            var uneven = shown.stream().filter(row -> row.size() != width).findFirst();
            var cells = shown.stream()
                    .map(row -> row.subList(0, Math.min(row.size(), MOST_COLUMNS)))
                    .toList();
            var remark = uneven.map(row -> "Row %d has %d fields where the head has %d. "
                                    .formatted(shown.indexOf(row) + 1, row.size(), width))
                            .orElse("")
                    + (more ? "The first %d rows; download it to read the rest. ".formatted(MOST_ROWS) : "")
                    + (wide ? "The first %d columns; download it to read the rest.".formatted(MOST_COLUMNS) : "");
            return new PayloadView(Kind.TABLE, "", cells, remark.strip());
        } catch (IOException | java.io.UncheckedIOException | IllegalStateException bad) {
            return raw(payload, "Shown as it came: not CSV that can be read.");
        }
    }

    private static PayloadView xml(String payload) {
        var factory = XMLInputFactory.newFactory();
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        // The limits of the JDK are lower, and differ from one of its versions to the next.
        factory.setProperty("jdk.xml.maxElementDepth", PayloadScan.DEEPEST + 1);
        factory.setProperty("jdk.xml.elementAttributeLimit", 2000);
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
                    if (++depth > PayloadScan.DEEPEST)
                        throw new XMLStreamException("nested deeper than " + PayloadScan.DEEPEST);
                    if (out.getBuffer().length() > LONGEST_LAID_OUT) throw new XMLStreamException(TOO_LONG);
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
