package app.morvet.core.messages;

import java.util.List;

/**
 * Tells whether a text may be, or hold, a document with a field of some names: whether all of them stand in it as words, the
 * last one with what parts a name from its value behind it.
 */
record NamesWithin(List<String> names) {
    /** What stands behind a name in XML, JSON, tables, addresses and logs, escaped or not. */
    private static final String PARTS = "=:>\"'<,;|/\\&%\t\r\n";

    /** @param folded the text as {@link FieldPath#folded} has it */
    boolean standIn(String folded) {
        if (!stands(names.getLast(), folded, true)) return false;
        for (var name : names) if (!stands(name, folded, false)) return false;
        return true;
    }

    /** @param asName whether what parts a name from its value must follow */
    private static boolean stands(String name, String text, boolean asName) {
        for (int at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1)) {
            int end = at + name.length();
            if (at > 0 && isOfWord(text.charAt(at - 1)) || end < text.length() && isOfWord(text.charAt(end))) continue;
            while (asName && end < text.length() && text.charAt(end) == ' ') end++;
            if (!asName || end < text.length() && PARTS.indexOf(text.charAt(end)) >= 0) return true;
        }
        return false;
    }

    private static boolean isOfWord(char c) {
        return Character.isLetterOrDigit(c) || c == '_';
    }
}
