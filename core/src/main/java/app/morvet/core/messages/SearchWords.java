package app.morvet.core.messages;

/**
 * Texts as they are searched. Marks of XML, JSON and CSV are taken out, so that a value is a word wherever it stands; names
 * joined by dots are words of their own, and so are the parts of a name in camel case behind the word in which it stands: {@code
 * ReadTimeoutException} is found by itself and by {@code timeout}, and {@code MF-42X-9} as a whole. The same is done with what is asked for, but for the
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
        int word = 0;
        boolean humps = false;
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            char shown = c == '"' ? ' ' : plain(text, i, c);
            if (Character.isWhitespace(shown)) {
                if (humps) parts(out, word);
                humps = false;
                out.append(shown);
                word = out.length();
                continue;
            }
            if (i > 0
                    && Character.isUpperCase(c)
                    && part(text.charAt(i - 1))
                    && !Character.isUpperCase(text.charAt(i - 1))) humps = true;
            out.append(shown);
        }
        if (humps) parts(out, word);
        return out.toString();
    }

    private static boolean part(char c) {
        return Character.isLetterOrDigit(c);
    }

    /** Puts the parts of the names in camel case behind the word in which they stand, so that the word is whole. */
    private static void parts(StringBuilder out, int word) {
        int end = out.length();
        int next;
        for (int from = word; from < end; from = next + 1) {
            boolean hump = false;
            for (next = from; next < end && part(out.charAt(next)); next++) hump |= next > from && hump(out, next);
            if (!hump || next - from > LONGEST_NAME) continue;
            for (int i = from; i < next; i++) {
                if (i == from || hump(out, i)) out.append(' ');
                out.append(out.charAt(i));
            }
        }
    }

    private static boolean hump(CharSequence text, int at) {
        return Character.isUpperCase(text.charAt(at)) && !Character.isUpperCase(text.charAt(at - 1));
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
