package app.morvet.core.messages;

import java.util.regex.Pattern;

/**
 * Texts as they are searched. Marks of XML, JSON and CSV are taken out, so that a value is a word wherever it stands; names
 * joined by dots are words of their own, and so are the parts of a name in camel case beside the whole of it: {@code
 * ReadTimeoutException} is found by itself and by {@code timeout}. The same is done with what is asked for.
 */
public final class SearchWords {
    /** Of a payload, so many characters can be searched; the rest can be read but not found. */
    public static final int LONGEST = 128 * 1024;

    private static final Pattern MARKS = Pattern.compile("[<>={}\\[\\](),;:/|\\\\&#]+");
    private static final Pattern DOTS = Pattern.compile("(?<=\\p{L})\\.(?=\\p{L})");
    private static final Pattern NAME = Pattern.compile("(?<![\\p{L}\\d])\\p{L}[\\p{L}\\d]{3,80}+(?![\\p{L}\\d])");
    private static final Pattern HUMP = Pattern.compile("(?<=[\\p{Ll}\\d])(?=\\p{Lu})");

    private SearchWords() {}

    /** A text to be found. */
    public static String of(String text) {
        var cut = text.length() > LONGEST ? text.substring(0, LONGEST) : text;
        var plain = plain(cut).replace('"', ' ');
        return NAME.matcher(plain).replaceAll(found -> {
            var name = found.group();
            var parts = HUMP.matcher(name).replaceAll(" ");
            return parts.equals(name) ? name : name + " " + parts;
        });
    }

    /** What is asked for: words, {@code "a phrase"}, {@code or}, {@code -without}. */
    public static String asked(String text) {
        return plain(text).strip();
    }

    private static String plain(String text) {
        return DOTS.matcher(MARKS.matcher(text.replace('\0', ' ')).replaceAll(" "))
                .replaceAll(" ");
    }
}
