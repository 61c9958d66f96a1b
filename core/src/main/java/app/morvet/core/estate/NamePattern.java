package app.morvet.core.estate;

import org.jspecify.annotations.Nullable;

/** Names as people write them where they mean several: {@code *} stands for any text, capitals make no difference. */
public final class NamePattern {
    private NamePattern() {}

    /** Whether a text fits a pattern. An empty pattern fits any text that is there. */
    public static boolean fits(String pattern, @Nullable String text) {
        if (text == null) return false;
        if (pattern.isEmpty()) return true;
        int star = pattern.indexOf('*');
        if (star < 0) return pattern.equalsIgnoreCase(text);
        if (!text.regionMatches(true, 0, pattern, 0, star)) return false;
        // Each part between two stars where it first occurs leaves the most to those after it; the last one ends the
        // text.
        int at = star;
        while (true) {
            int next = pattern.indexOf('*', star + 1);
            int length = (next < 0 ? pattern.length() : next) - star - 1;
            if (next < 0)
                return text.length() - at >= length
                        && text.regionMatches(true, text.length() - length, pattern, star + 1, length);
            while (at + length <= text.length() && !text.regionMatches(true, at, pattern, star + 1, length)) at++;
            if (at + length > text.length()) return false;
            at += length;
            star = next;
        }
    }
}
