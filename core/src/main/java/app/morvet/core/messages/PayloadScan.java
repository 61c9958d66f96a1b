package app.morvet.core.messages;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Finds the fields of a payload where they stand in its text, with their values as a reader would decode them. Payloads are
 * what failed, so it goes as far as it can and says from where on nothing can be read any more. What kind a payload is, its
 * content decides before its name does, so that a wrong media type hides nothing.
 *
 * @param fields    in the order in which they end
 * @param readTo    from here on nothing could be read; the length of the text where all could
 */
public record PayloadScan(Format format, List<Field> fields, int readTo) {
    private static final int DEEPEST = PayloadView.DEEPEST;

    public enum Format {
        XML,
        JSON,
        TABLE,
        TEXT
    }

    /**
     * One field: an element, an attribute, a comment, a value, an object, a cell.
     *
     * @param path  names from the outside in; {@code @} before an attribute, {@code [0]} for a place in a list
     * @param start of its content in the text
     * @param end   behind it
     * @param value its own text, decoded; empty for an object or a list
     * @param leaf  whether it holds no other field
     * @param parts where its own text stands, as pairs of start and end
     */
    public record Field(List<String> path, int start, int end, String value, boolean leaf, List<int[]> parts) {}

    /** @param mediaType what the sender called it */
    public static PayloadScan of(String mediaType, String text) {
        int first = 0;
        while (first < text.length() && (Character.isWhitespace(text.charAt(first)) || text.charAt(first) == '\uFEFF'))
            first++;
        char c = first < text.length() ? text.charAt(first) : ' ';
        if (c == '<') return new Xml(text).scan();
        if (c == '{' || c == '[') return new Json(text).scan();
        if (mediaType.toLowerCase(java.util.Locale.ROOT).contains("csv")) return new Table(text).scan();
        var whole = new Field(List.of(), 0, text.length(), text, true, List.of(new int[] {0, text.length()}));
        return new PayloadScan(Format.TEXT, List.of(whole), text.length());
    }

    /** XML 1.0 without a document type: who may define entities may hide anything in them, so nothing is read behind one. */
    private static final class Xml {
        private static final class Open {
            private final String name;
            private final int start;
            private final StringBuilder text = new StringBuilder();
            private final List<int[]> parts = new ArrayList<>();
            private boolean leaf = true;

            Open(String name, int start) {
                this.name = name;
                this.start = start;
            }
        }

        private final String text;
        private final List<Field> fields = new ArrayList<>();
        private final Deque<Open> open = new ArrayDeque<>();
        private int at;

        Xml(String text) {
            this.text = text;
        }

        PayloadScan scan() {
            int good = 0;
            while (at < text.length()) {
                good = at;
                if (!next()) break;
                good = at;
            }
            int readTo = at >= text.length() ? text.length() : good;
            while (!open.isEmpty()) close(text.length());
            return new PayloadScan(Format.XML, List.copyOf(fields), readTo);
        }

        private boolean next() {
            if (text.charAt(at) != '<') return characters();
            if (text.startsWith("<!--", at)) return aside("<!--", "-->", "#comment");
            if (text.startsWith("<?", at)) return aside("<?", "?>", "#instruction");
            if (text.startsWith("<![CDATA[", at)) return cdata();
            if (text.startsWith("<!", at)) return false;
            return text.startsWith("</", at) ? endTag() : startTag();
        }

        private boolean characters() {
            int end = text.indexOf('<', at);
            if (end < 0) end = text.length();
            var top = open.peek();
            if (top != null) {
                var decoded = Unescaped.entities(text.substring(at, end));
                if (decoded == null) return false;
                top.text.append(decoded);
                top.parts.add(new int[] {at, end});
            }
            at = end;
            return true;
        }

        private boolean aside(String opening, String closing, String name) {
            int start = at + opening.length();
            int end = text.indexOf(closing, start);
            if (end < 0) return false;
            add(name, start, end, text.substring(start, end), true, List.of(new int[] {start, end}));
            at = end + closing.length();
            return true;
        }

        private boolean cdata() {
            int start = at + "<![CDATA[".length();
            int end = text.indexOf("]]>", start);
            var top = open.peek();
            if (end < 0 || top == null) return false;
            top.text.append(text, start, end);
            top.parts.add(new int[] {start, end});
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
            var whole = top.text.toString();
            add(top.name, top.start, end, whole, top.leaf, List.copyOf(top.parts));
        }

        private boolean startTag() {
            if (open.size() >= DEEPEST) return false;
            int place = at + 1;
            int nameEnd = nameEnd(place);
            if (nameEnd == place) return false;
            var name = text.substring(place, nameEnd);
            var attributes = new ArrayList<Field>();
            place = nameEnd;
            while (true) {
                place = skip(place);
                if (place >= text.length()) return false;
                char c = text.charAt(place);
                if (c == '>' || text.startsWith("/>", place)) break;
                int end = nameEnd(place);
                if (end == place) return false;
                var attribute = text.substring(place, end);
                place = skip(end);
                if (place >= text.length() || text.charAt(place) != '=') return false;
                place = skip(place + 1);
                if (place >= text.length()) return false;
                char quote = text.charAt(place);
                int close = quote == '"' || quote == '\'' ? text.indexOf(quote, place + 1) : -1;
                if (close < 0) return false;
                var value = Unescaped.entities(text.substring(place + 1, close));
                if (value == null) return false;
                var path = path(name);
                path.add("@" + attribute);
                attributes.add(new Field(
                        List.copyOf(path), place + 1, close, value, true, List.of(new int[] {place + 1, close})));
                place = close + 1;
            }
            var top = open.peek();
            if (top != null) top.leaf = false;
            fields.addAll(attributes);
            boolean empty = text.charAt(place) == '/';
            at = place + (empty ? 2 : 1);
            open.push(new Open(name, at));
            if (empty) close(at);
            return true;
        }

        private List<String> path(String last) {
            var path = new ArrayList<String>();
            open.descendingIterator().forEachRemaining(one -> path.add(one.name));
            path.add(last);
            return path;
        }

        private void add(String name, int start, int end, String value, boolean leaf, List<int[]> parts) {
            fields.add(new Field(List.copyOf(path(name)), start, end, value, leaf, parts));
        }

        private int nameEnd(int place) {
            while (place < text.length()) {
                char c = text.charAt(place);
                if (!Character.isLetterOrDigit(c)
                        && ":_-.".indexOf(c) < 0
                        && !Character.isSurrogate(c)
                        && c != '\u00B7') break;
                place++;
            }
            return place;
        }

        private int skip(int place) {
            while (place < text.length() && Character.isWhitespace(text.charAt(place))) place++;
            return place;
        }
    }

    /** JSON (RFC 8259), with a stack of its own, so that depth costs no calls. */
    private static final class Json {
        private static final class Open {
            private final boolean object;
            private final int start;
            private int index;
            private @Nullable String name;

            Open(boolean object, int start) {
                this.object = object;
                this.start = start;
            }
        }

        private final String text;
        private final List<Field> fields = new ArrayList<>();
        private final List<Open> open = new ArrayList<>();
        private int at;

        Json(String text) {
            this.text = text;
        }

        PayloadScan scan() {
            int good = 0;
            boolean whole = false;
            do {
                good = at;
                skip();
                if (at >= text.length()) {
                    whole = open.isEmpty();
                    good = at;
                    break;
                }
            } while (next());
            // What was still open reaches to the end, so that what is under a hidden name stays hidden there.
            while (!open.isEmpty()) close(text.length());
            return new PayloadScan(
                    Format.JSON, List.copyOf(fields), whole ? text.length() : Math.min(good, text.length()));
        }

        private boolean next() {
            char c = text.charAt(at);
            var top = open.isEmpty() ? null : open.getLast();
            if (c == '}' || c == ']') {
                if (top == null || top.object != (c == '}')) return false;
                close(++at);
                return true;
            }
            if (c == ',') {
                if (top == null) return false;
                top.index++;
                top.name = null;
                at++;
                return true;
            }
            if (top != null && top.object && top.name == null) return name(top);
            if (c == '{' || c == '[') {
                if (open.size() >= DEEPEST) return false;
                open.add(new Open(c == '{', at++));
                return true;
            }
            return value(c);
        }

        private boolean name(Open top) {
            int start = at;
            var name = string();
            if (name == null) {
                at = start;
                return false;
            }
            skip();
            if (at >= text.length() || text.charAt(at) != ':') return false;
            at++;
            top.name = name;
            return true;
        }

        private boolean value(char c) {
            int start = at;
            String value;
            if (c == '"') {
                var read = string();
                if (read == null) {
                    at = start;
                    return false;
                }
                value = read;
            } else {
                while (at < text.length() && ",]}:\"{[ \t\r\n".indexOf(text.charAt(at)) < 0) at++;
                if (at == start) return false;
                value = text.substring(start, at);
            }
            fields.add(new Field(path(open.size()), start, at, value, true, List.of(new int[] {start, at})));
            return true;
        }

        private void close(int end) {
            var top = open.removeLast();
            fields.add(new Field(path(open.size()), top.start, end, "", false, List.of()));
        }

        private List<String> path(int depth) {
            var path = new ArrayList<String>();
            for (int i = 0; i < depth; i++) {
                var one = open.get(i);
                path.add(one.object ? String.valueOf(one.name) : "[" + one.index + "]");
            }
            return path;
        }

        private @Nullable String string() {
            if (text.charAt(at) != '"') return null;
            int start = ++at;
            while (at < text.length() && text.charAt(at) != '"') at += text.charAt(at) == '\\' ? 2 : 1;
            if (at >= text.length()) return null;
            return Unescaped.json(text.substring(start, at++));
        }

        private void skip() {
            while (at < text.length() && " \t\r\n\uFEFF".indexOf(text.charAt(at)) >= 0) at++;
        }
    }

    /** Comma or semicolon separated values (RFC 4180), the head first. */
    private static final class Table {
        private final String text;
        private final List<Field> fields = new ArrayList<>();
        private final List<String> head = new ArrayList<>();
        private int at;

        Table(String text) {
            this.text = text;
        }

        PayloadScan scan() {
            char delimiter = delimiter(text);
            int row = 0;
            int column = 0;
            while (at < text.length()) {
                int start = at;
                var value = new StringBuilder();
                if (text.charAt(at) == '"') {
                    at++;
                    while (at < text.length()) {
                        if (text.charAt(at) == '"') {
                            if (at + 1 < text.length() && text.charAt(at + 1) == '"') at++;
                            else break;
                        }
                        value.append(text.charAt(at++));
                    }
                    at = Math.min(text.length(), at + 1);
                }
                int rest = at;
                while (at < text.length() && text.charAt(at) != delimiter && "\r\n".indexOf(text.charAt(at)) < 0) at++;
                value.append(text, rest, at);
                cell(row, column, start, value.toString());
                if (at < text.length() && text.charAt(at) == delimiter) {
                    at++;
                    column++;
                } else {
                    while (at < text.length() && "\r\n".indexOf(text.charAt(at)) >= 0) at++;
                    row++;
                    column = 0;
                }
            }
            return new PayloadScan(Format.TABLE, List.copyOf(fields), text.length());
        }

        private void cell(int row, int column, int start, String value) {
            if (row == 0) {
                head.add(value.strip());
                return;
            }
            var name = column < head.size() ? head.get(column) : "[" + column + "]";
            fields.add(new Field(
                    List.of("[" + (row - 1) + "]", name), start, at, value, true, List.of(new int[] {start, at})));
        }
    }

    static char delimiter(String text) {
        var head = text.lines().findFirst().orElse("");
        long semicolons = head.chars().filter(c -> c == ';').count();
        long tabs = head.chars().filter(c -> c == '\t').count();
        long commas = head.chars().filter(c -> c == ',').count();
        if (tabs > semicolons && tabs > commas) return '\t';
        return semicolons > commas ? ';' : ',';
    }
}
