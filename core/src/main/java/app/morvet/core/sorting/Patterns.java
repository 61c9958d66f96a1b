package app.morvet.core.sorting;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.List;
import java.util.regex.MatchResult;
import org.jspecify.annotations.Nullable;

/**
 * Regular expressions from people, as RE2 has them: their time grows with the text and with their size only (Cox 2007, "Regular
 * Expression Matching Can Be Simple And Fast"). What cannot be done so is refused with its place: backreferences, looking ahead
 * and behind, possessive repeats. Capitals make no difference.
 */
public final class Patterns {
    /** How large a pattern may be with its counted repeats written out, in characters. */
    static final long LARGEST = 10_000;

    /** A counted repeat; other braces are themselves. */
    static final java.util.regex.Pattern COUNT = java.util.regex.Pattern.compile("\\{(\\d{1,9})(?:,(\\d{0,9}))?}");

    private Patterns() {}

    /** @throws Faulty where it cannot be read, or would be too large */
    public static Pattern read(String text) {
        bounded(text);
        try {
            return Pattern.compile(text, Pattern.CASE_INSENSITIVE);
        } catch (PatternSyntaxException wrong) {
            throw new Faulty("pattern", text, position(text, wrong), why(wrong));
        }
    }

    /** The size is at most that of the text times all counts in it: nobody who is sound comes near it. */
    private static void bounded(String text) {
        long size = text.length();
        for (MatchResult count : COUNT.matcher(text).results().toList()) {
            long most = Math.max(number(count.group(1)), number(count.group(2)));
            size = Math.min(Long.MAX_VALUE / 2_000_000_000L, size * Math.max(1, most));
            if (most > 1000 || size > LARGEST * text.length())
                throw new Faulty(
                        "pattern",
                        text,
                        count.start() + 1,
                        "repeats in it come to too many together; write {0,200} or less, and none around another");
        }
    }

    private static long number(@Nullable String digits) {
        return digits == null || digits.isEmpty() ? 0 : Long.parseLong(digits);
    }

    private static String why(PatternSyntaxException wrong) {
        var what = wrong.getDescription();
        return what.startsWith("invalid or unsupported")
                        || what.startsWith("invalid escape")
                        || what.startsWith("invalid nested")
                ? what
                        + "; looking ahead or behind, backreferences and possessive repeats are not taken, since they can take time without end"
                : what;
    }

    private static int position(String text, PatternSyntaxException wrong) {
        var part = wrong.getPattern();
        int found = part == null || part.endsWith(text) ? -1 : text.indexOf(part);
        return found >= 0 ? found + 1 : Faulty.position(text, Patterns::reads, List.of("", "a"));
    }

    private static boolean reads(String text) {
        try {
            Pattern.compile(text);
            return true;
        } catch (PatternSyntaxException wrong) {
            return false;
        }
    }
}
