package app.morvet.core.callouts;

/**
 * Words as they go into one text message: at most 160 letters of the default alphabet (3GPP TS 23.038), of which some count
 * twice, or 70 of any other (UCS-2, two octets each). Words that are too long are cut at their end; the link never is.
 */
public final class TextMessage {
    private static final int OF_DEFAULT = 160;
    private static final int OF_OTHERS = 70;
    private static final String CUT = "...";

    private static final String DEFAULT = "@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !\"#¤%&'()*+,-./0123456789:;<=>?"
            + "¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà";
    private static final String TWICE = "^{}\\[~]|€\f";

    private TextMessage() {}

    /**
     * @param words what is told
     * @param link  stands at the end, whole; empty where there is none
     * @throws IllegalArgumentException where the link alone is too long
     */
    public static String of(String words, String link) {
        var plain = simple(words).strip().replaceAll("\\s+", " ");
        var end = link.isEmpty() ? "" : " " + link;
        if (fits(plain + end)) return plain + end;
        for (int to = plain.length() - 1; to > 0; to--) {
            if (Character.isHighSurrogate(plain.charAt(to - 1))) continue;
            var cut = plain.substring(0, to).stripTrailing() + CUT + end;
            if (fits(cut)) return cut;
        }
        if (fits(link)) return link;
        throw new IllegalArgumentException("the link alone is longer than a text message: " + link);
    }

    /** Whether a text is one message. */
    public static boolean fits(String text) {
        int septets = 0;
        for (int place = 0; place < text.length(); place++) {
            char letter = text.charAt(place);
            if (DEFAULT.indexOf(letter) >= 0) septets++;
            else if (TWICE.indexOf(letter) >= 0) septets += 2;
            else return text.length() <= OF_OTHERS;
        }
        return septets <= OF_DEFAULT;
    }

    /** Signs that only look better become those that every telephone has, so that one of them does not cost half of the message. */
    private static String simple(String words) {
        return words.replace('–', '-')
                .replace('—', '-')
                .replace('\u00a0', ' ')
                .replace('\u202f', ' ')
                .replace('’', '\'')
                .replace('‘', '\'')
                .replace('“', '"')
                .replace('”', '"')
                .replace("…", CUT)
                .replace("→", "->")
                .replace("≥", ">=")
                .replace("≤", "<=")
                .replace("·", "-")
                .replace("×", "x");
    }
}
