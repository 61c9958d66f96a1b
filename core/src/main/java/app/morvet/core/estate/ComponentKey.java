package app.morvet.core.estate;

import java.text.Normalizer;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How the key of a component may be: one line of text that can stand in the address of a page. */
public final class ComponentKey {
    public static final int LONGEST = 200;

    private static final String ALLOWED =
            "a key is one line of at most 200 characters, without control characters and without / \\ and ;";

    private ComponentKey() {}

    /**
     * The key that a name makes: {@code Bränsle & Stores 2} is {@code bransle-stores-2}. Lower case, a dash for whatever is neither letter
     * nor figure, letters without their accents.
     *
     * @return empty where no letter from a to z and no figure is in it
     */
    public static String of(String name) {
        return Normalizer.normalize(name, Normalizer.Form.NFD)
                .replaceAll("\\p{M}+", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "");
    }

    /** Why a text cannot be the key of a component, in words for who sent it; null where it can. */
    public static @Nullable String refusal(String key) {
        if (key.isBlank()) return "it is empty; " + ALLOWED;
        if (key.length() > LONGEST) return "it has %,d characters; %s".formatted(key.length(), ALLOWED);
        if (key.equals(".") || key.equals("..")) return "\"" + key + "\" is no name; " + ALLOWED;
        for (int i = 0; i < key.length(); i++) {
            char c = key.charAt(i);
            boolean half = Character.isSurrogate(c)
                    && !Character.isSurrogatePair(c, i + 1 < key.length() ? key.charAt(i + 1) : 0);
            if (half) return "it has half a character at place %d; %s".formatted(i + 1, ALLOWED);
            if (Character.isSurrogate(c)) i++;
            else if (Character.isISOControl(c) || c == '\u2028' || c == '\u2029' || c == '\uFFFD')
                return "it has a control character at place %d; %s".formatted(i + 1, ALLOWED);
            else if (c == '/' || c == '\\' || c == ';') return "it has %c at place %d; %s".formatted(c, i + 1, ALLOWED);
        }
        return null;
    }
}
