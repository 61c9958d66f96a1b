package app.morvet.core.messages;

import app.morvet.core.messages.PayloadScan.Field;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** The fields of JSON (RFC 8259), one document or several behind each other, with a stack of its own, so that depth costs no calls. */
final class JsonFields {
    private static final class Open {
        private final boolean object;
        private final int start;
        private final FieldPath path;
        private int place;
        private @Nullable String name;

        Open(boolean object, int start, FieldPath path) {
            this.object = object;
            this.start = start;
            this.path = path;
        }

        FieldPath next() {
            return object ? path.child(String.valueOf(name)) : path.child(place);
        }
    }

    private final String text;
    private final Consumer<Field> fields;
    private final List<Open> open = new ArrayList<>();
    private int at;

    JsonFields(String text, Consumer<Field> fields) {
        this.text = text;
        this.fields = fields;
    }

    /** @return from where on nothing can be read */
    int scan() {
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
        return whole ? text.length() : Math.min(good, text.length());
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
            top.place++;
            top.name = null;
            at++;
            return true;
        }
        if (top != null && top.object && top.name == null) return name(top);
        if (c == '{' || c == '[') {
            if (open.size() >= PayloadScan.DEEPEST) return false;
            open.add(new Open(c == '{', at++, top == null ? FieldPath.ROOT : top.next()));
            return true;
        }
        return top != null && value(top, c);
    }

    private boolean name(Open top) {
        int start = at;
        var name = string();
        if (name == null) {
            at = start;
            return false;
        }
        int end = at;
        skip();
        if (at >= text.length() || text.charAt(at) != ':') return false;
        at++;
        top.name = name;
        fields.accept(Field.leaf(top.path.child("#name"), start, end, name));
        return true;
    }

    private boolean value(Open top, char c) {
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
        fields.accept(Field.leaf(top.next(), start, at, value));
        return true;
    }

    private void close(int end) {
        var top = open.removeLast();
        fields.accept(new Field(top.path, top.start, end, "", false, new int[0]));
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
