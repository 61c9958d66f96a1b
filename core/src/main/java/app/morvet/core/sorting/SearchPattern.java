package app.morvet.core.sorting;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.Locale;

/**
 * A regular expression from people that is looked for in many texts. Most texts have nothing of it, which is seen by the
 * longest text that must stand in whatever it finds, before the engine is asked.
 */
public final class SearchPattern {
    /** Folds to an s, and is no s in lower case. */
    private static final char LONG_S = '\u017F';

    /** A repeat after flags is one of what stands before them. */
    private static final java.util.regex.Pattern REPEATED_FLAGS =
            java.util.regex.Pattern.compile("\\(\\?[A-Za-z-]*\\)[*?{]");

    private final Pattern pattern;
    private final String required;

    private SearchPattern(Pattern pattern) {
        this.pattern = pattern;
        this.required = required(pattern.pattern()).toLowerCase(Locale.ROOT);
    }

    /** @throws Faulty where it cannot be read, or would be too large */
    public static SearchPattern of(String text) {
        return new SearchPattern(Patterns.read(text));
    }

    /** As it was written. */
    public String text() {
        return pattern.pattern();
    }

    /**
     * Whether it is found anywhere in a text.
     *
     * @param lower the text in lower case
     */
    public boolean foundIn(String text, String lower) {
        if (!lower.contains(required) && lower.indexOf(LONG_S) < 0) return false;
        return pattern.matcher(text).find();
    }

    /** Finds one place after another. */
    public Matcher matcher(String text) {
        return pattern.matcher(text);
    }

    /**
     * A text that stands in whatever a pattern finds, the longest that is plain to see: outside of brackets, and only where there
     * is no choice between several.
     *
     * @return empty where there is none
     */
    static String required(String pattern) {
        if (REPEATED_FLAGS.matcher(pattern).find()) return "";
        var best = "";
        var run = new StringBuilder();
        int depth = 0;
        for (int i = 0; i < pattern.length(); i++) {
            char c = pattern.charAt(i);
            if (c == '|' && depth == 0) return "";
            boolean plain = depth == 0 && (Character.isLetterOrDigit(c) || " _-:;,'\"/=<>@#%&!~".indexOf(c) >= 0);
            if (plain) {
                run.append(c);
                continue;
            }
            // What may be missing, or comes a number of times, is not required as it stands.
            if ((c == '?' || c == '*' || c == '{') && !run.isEmpty()) run.setLength(run.length() - 1);
            if (run.length() > best.length()) best = run.toString();
            run.setLength(0);
            if (c == '\\') {
                if (i + 1 < pattern.length() && "QpPx01234567".indexOf(pattern.charAt(i + 1)) >= 0) return "";
                i++;
            } else if (c == '[') {
                i = classEnd(pattern, i);
            } else if (c == '{') {
                var count = Patterns.COUNT.matcher(pattern).region(i, pattern.length());
                if (count.lookingAt()) i = count.end() - 1;
            } else if (c == '(') depth++;
            else if (c == ')') depth--;
        }
        return run.length() > best.length() ? run.toString() : best;
    }

    private static int classEnd(String pattern, int open) {
        int i = open + 1;
        if (i < pattern.length() && pattern.charAt(i) == '^') i++;
        if (i < pattern.length() && pattern.charAt(i) == ']') i++;
        for (; i < pattern.length() && pattern.charAt(i) != ']'; i++) {
            if (pattern.charAt(i) == '\\') i++;
            else if (pattern.startsWith("[:", i)) i = Math.max(i, pattern.indexOf(":]", i) + 1);
        }
        return i;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof SearchPattern it && it.text().equals(text());
    }

    @Override
    public int hashCode() {
        return text().hashCode();
    }

    @Override
    public String toString() {
        return text();
    }
}
