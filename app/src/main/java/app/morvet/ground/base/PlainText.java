package app.morvet.ground.base;

/** Texts as the store takes them: PostgreSQL keeps no NUL, and half a character is none. */
public final class PlainText {
    private static final char MARK = '\uFFFD';

    private PlainText() {}

    /** A text in which a mark stands for each NUL and each half of a character, so that it is seen and nothing is lost silently. */
    public static String of(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == 0 || Character.isSurrogate(c) && !isPair(text, i)) return marked(text);
            if (Character.isSurrogate(c)) i++;
        }
        return text;
    }

    private static boolean isPair(String text, int at) {
        return at + 1 < text.length() && Character.isSurrogatePair(text.charAt(at), text.charAt(at + 1));
    }

    private static String marked(String text) {
        var plain = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (Character.isSurrogate(c) && isPair(text, i)) plain.append(c).append(text.charAt(++i));
            else plain.append(c == 0 || Character.isSurrogate(c) ? MARK : c);
        }
        return plain.toString();
    }

    /** The beginning of a text, of at most so many characters, never half of one. */
    public static String cut(String text, int most) {
        if (text.length() <= most) return text;
        int end = most > 0 && Character.isHighSurrogate(text.charAt(most - 1)) ? most - 1 : most;
        return text.substring(0, end) + "…";
    }
}
