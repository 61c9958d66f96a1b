package app.morvet.core.messages;

import app.morvet.core.messages.PayloadScan.Field;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.function.Consumer;

/**
 * The fields of XML 1.0 without a document type: who may define entities may hide anything in them, so nothing is read behind
 * one. Nor is what stands outside of the root element.
 */
final class XmlFields {
    /** Twice so many fields, since the name of each is one of its own. */
    private static final int MOST_ATTRIBUTES = 2000;

    private static final class Open {
        private final String name;
        private final int start;
        private final FieldPath path;
        private final StringBuilder text = new StringBuilder();
        private int[] parts = new int[2];
        private int used;
        private boolean leaf = true;

        Open(String name, int start, FieldPath path) {
            this.name = name;
            this.start = start;
            this.path = path;
        }

        void add(int from, int to) {
            if (used == parts.length) parts = Arrays.copyOf(parts, used * 2);
            parts[used++] = from;
            parts[used++] = to;
        }
    }

    private final String text;
    private final Consumer<Field> fields;
    private final Deque<Open> open = new ArrayDeque<>();
    private boolean begun;
    private int at;

    XmlFields(String text, Consumer<Field> fields) {
        this.text = text;
        this.fields = fields;
    }

    /** @return from where on nothing can be read */
    int scan() {
        int good = 0;
        while (at < text.length()) {
            good = at;
            if (!next()) break;
            good = at;
        }
        boolean whole = at >= text.length() && open.isEmpty();
        while (!open.isEmpty()) close(text.length());
        return whole ? text.length() : good;
    }

    private boolean next() {
        if (text.charAt(at) != '<') return characters();
        if (text.startsWith("<!--", at)) return aside("<!--", "-->", "#comment");
        if (text.startsWith("<?", at)) return aside("<?", "?>", "#instruction");
        if (text.startsWith("<![CDATA[", at)) return cdata();
        if (text.startsWith("<!", at)) return false;
        return text.startsWith("</", at) ? endTag() : startTag();
    }

    private FieldPath path() {
        var top = open.peek();
        return top == null ? FieldPath.ROOT : top.path;
    }

    private boolean characters() {
        int end = text.indexOf('<', at);
        if (end < 0) end = text.length();
        var top = open.peek();
        if (top == null) {
            for (int i = at; i < end; i++) if (" \t\r\n\uFEFF".indexOf(text.charAt(i)) < 0) return false;
        } else {
            var decoded = Unescaped.entities(text.substring(at, end));
            if (decoded == null) return false;
            top.text.append(decoded);
            top.add(at, end);
        }
        at = end;
        return true;
    }

    private boolean aside(String opening, String closing, String name) {
        int start = at + opening.length();
        int end = text.indexOf(closing, start);
        if (end < 0) return false;
        fields.accept(Field.leaf(path().child(name), start, end, text.substring(start, end)));
        at = end + closing.length();
        return true;
    }

    private boolean cdata() {
        int start = at + "<![CDATA[".length();
        int end = text.indexOf("]]>", start);
        var top = open.peek();
        if (end < 0 || top == null) return false;
        top.text.append(text, start, end);
        top.add(start, end);
        at = end + 3;
        return true;
    }

    private boolean endTag() {
        int end = text.indexOf('>', at);
        var top = open.peek();
        if (end < 0 || top == null) return false;
        if (!text.substring(at + 2, end).strip().equals(top.name)) return false;
        close(at);
        at = end + 1;
        return true;
    }

    private void close(int end) {
        var top = open.pop();
        fields.accept(
                new Field(top.path, top.start, end, top.text.toString(), top.leaf, Arrays.copyOf(top.parts, top.used)));
    }

    private boolean startTag() {
        if (open.size() >= PayloadScan.DEEPEST || open.isEmpty() && begun) return false;
        int place = at + 1;
        int nameEnd = nameEnd(place);
        if (nameEnd == place) return false;
        var name = text.substring(place, nameEnd);
        var path = path().child(name);
        var attributes = new ArrayList<Field>();
        place = nameEnd;
        while (true) {
            place = skip(place);
            if (place >= text.length()) return false;
            if (text.charAt(place) == '>' || text.startsWith("/>", place)) break;
            int end = nameEnd(place);
            if (end == place || attributes.size() > MOST_ATTRIBUTES) return false;
            var attribute = text.substring(place, end);
            attributes.add(Field.leaf(path.child("#name"), place, end, attribute));
            place = skip(end);
            if (place >= text.length() || text.charAt(place) != '=') return false;
            place = skip(place + 1);
            if (place >= text.length()) return false;
            char quote = text.charAt(place);
            int close = quote == '"' || quote == '\'' ? text.indexOf(quote, place + 1) : -1;
            if (close < 0) return false;
            var value = Unescaped.entities(text.substring(place + 1, close));
            if (value == null) return false;
            attributes.add(Field.leaf(path.child("@" + attribute), place + 1, close, value));
            place = close + 1;
        }
        begun = true;
        var top = open.peek();
        if (top != null) top.leaf = false;
        attributes.forEach(fields);
        boolean empty = text.charAt(place) == '/';
        int nameStart = at + 1;
        at = place + (empty ? 2 : 1);
        open.push(new Open(name, at, path));
        fields.accept(Field.leaf(path.child("#name"), nameStart, nameEnd, name));
        if (empty) close(at);
        return true;
    }

    private int nameEnd(int from) {
        int place = from;
        while (place < text.length()) {
            char c = text.charAt(place);
            if (!Character.isLetterOrDigit(c) && ":_-.".indexOf(c) < 0 && !Character.isSurrogate(c) && c != '\u00B7')
                break;
            place++;
        }
        return place;
    }

    private int skip(int from) {
        int place = from;
        while (place < text.length() && Character.isWhitespace(text.charAt(place))) place++;
        return place;
    }
}
