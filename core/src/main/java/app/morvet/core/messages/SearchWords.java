package app.morvet.core.messages;

/**
 * Texts as they are searched. Marks of XML, JSON and CSV are taken out, so that a value is a word wherever it stands; names
 * joined by dots are words of their own, and so are the parts of a name in camel case beside the whole of it: {@code
 * ReadTimeoutException} is found by itself and by {@code timeout}. The same is done with what is asked for, but for the
 * quotes of a phrase. Written as one pass over the characters, since every failed message goes through it.
 */
public final class SearchWords {
    /** Of a payload, so many characters can be searched; the rest can be read but not found. */
    public static final int LONGEST = 128 * 1024;

    private static final String MARKS = "<>={}[](),;:/|\\&#\0";
    private static final int LONGEST_NAME = 80;

    private SearchWords() {}

    /** A text to be found. */
    public static String of(String text) {
        int length = Math.min(text.length(), LONGEST);
        var out = new StringBuilder(length + 64);
        int start = -1;
        boolean humps = false;
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            boolean part = Character.isLetterOrDigit(c);
            if (part && start < 0) {
                start = out.length();
                humps = false;
            } else if (part && Character.isUpperCase(c) && !Character.isUpperCase(text.charAt(i - 1))) {
                humps = true;
            } else if (!part && start >= 0) {
                if (humps) parts(out, start);
                start = -1;
            }
            out.append(c == '"' ? ' ' : plain(text, i, c));
        }
        if (start >= 0 && humps) parts(out, start);
        return out.toString();
    }

    /** Puts the parts of a name in camel case behind it. */
    private static void parts(StringBuilder out, int start) {
        int end = out.length();
        if (end - start > LONGEST_NAME) return;
        for (int i = start; i < end; i++) {
            char c = out.charAt(i);
            if (i == start || Character.isUpperCase(c) && !Character.isUpperCase(out.charAt(i - 1))) out.append(' ');
            out.append(c);
        }
    }

    /** What is asked for: words, {@code "a phrase"}, {@code or}, {@code -without}. */
    public static String asked(String text) {
        var out = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) out.append(plain(text, i, text.charAt(i)));
        return out.toString().strip();
    }

    private static char plain(String text, int at, char c) {
        if (MARKS.indexOf(c) >= 0) return ' ';
        boolean joins = c == '.'
                && at > 0
                && at + 1 < text.length()
                && Character.isLetter(text.charAt(at - 1))
                && Character.isLetter(text.charAt(at + 1));
        return joins ? ' ' : c;
    }
}
