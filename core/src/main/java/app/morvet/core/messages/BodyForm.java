package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Writes JSON and XML within a text in one form, so that bodies which say the same are compared as the same: without blanks
 * between their parts and, in objects of JSON, with the members by name and none that are only about this one message, such
 * as {@code traceId} (unless nothing else is left). Texts and numbers stay as they are written; quotes may be single.
 */
final class BodyForm {
    private static final int DEEPEST = 32;
    private static final Pattern BETWEEN_TAGS = Pattern.compile(">\\s++<");

    private record Member(String name, String written) {}

    private final String text;
    private int at;

    private BodyForm(String text) {
        this.text = text;
    }

    static String of(String text) {
        return objects(text.indexOf('<') < 0 ? text : BETWEEN_TAGS.matcher(text).replaceAll("><"));
    }

    /** What is no whole object stays as it is. */
    private static String objects(String text) {
        int next = text.indexOf('{');
        if (next < 0) return text;
        var out = new StringBuilder(text.length());
        int from = 0;
        for (; next >= 0; next = text.indexOf('{', next)) {
            var form = new BodyForm(text);
            form.at = next;
            var object = form.object(0);
            if (object == null) {
                next++;
                continue;
            }
            out.append(text, from, next).append(object);
            from = form.at;
            next = from;
        }
        return out.append(text, from, text.length()).toString();
    }

    private @Nullable String object(int depth) {
        if (depth > DEEPEST) return null;
        at++;
        var members = new ArrayList<Member>();
        for (skip(); !has('}'); skip()) {
            if (!members.isEmpty()) {
                if (!has(',')) return null;
                at++;
                skip();
            }
            var name = string();
            skip();
            if (name == null || !has(':')) return null;
            at++;
            var value = value(depth);
            if (value == null) return null;
            members.add(new Member(name.substring(1, name.length() - 1), name + ':' + value));
        }
        at++;
        return written(members);
    }

    private static String written(List<Member> members) {
        var lasting = members.stream()
                .filter(one -> !WordReading.volatileKey(one.name.toLowerCase(Locale.ROOT)))
                .toList();
        var kept = new ArrayList<>(lasting.isEmpty() ? members : lasting);
        kept.sort(Comparator.comparing(Member::name));
        return '{' + String.join(",", kept.stream().map(Member::written).toList()) + '}';
    }

    private @Nullable String list(int depth) {
        at++;
        var items = new ArrayList<String>();
        for (skip(); !has(']'); skip()) {
            if (!items.isEmpty()) {
                if (!has(',')) return null;
                at++;
            }
            var item = value(depth);
            if (item == null) return null;
            items.add(item);
        }
        at++;
        return '[' + String.join(",", items) + ']';
    }

    private @Nullable String value(int depth) {
        skip();
        if (has('{')) return object(depth + 1);
        if (has('[')) return depth > DEEPEST ? null : list(depth + 1);
        if (has('"') || has('\'')) return string();
        int from = at;
        while (at < text.length()
                && (Character.isLetterOrDigit(text.charAt(at)) || "+-.".indexOf(text.charAt(at)) >= 0)) at++;
        return at == from ? null : text.substring(from, at);
    }

    /** With its quotes. */
    private @Nullable String string() {
        if (!has('"') && !has('\'')) return null;
        char quote = text.charAt(at);
        int from = at++;
        while (at < text.length() && text.charAt(at) != quote) at += text.charAt(at) == '\\' ? 2 : 1;
        if (at >= text.length()) return null;
        return text.substring(from, ++at);
    }

    private boolean has(char c) {
        return at < text.length() && text.charAt(at) == c;
    }

    private void skip() {
        while (at < text.length() && Character.isWhitespace(text.charAt(at))) at++;
    }
}
