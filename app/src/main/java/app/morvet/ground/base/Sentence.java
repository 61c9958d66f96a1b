package app.morvet.ground.base;

/** What core refuses, it says in words without a beginning and an end; a page says it as a sentence. */
public final class Sentence {
    private Sentence() {}

    public static String of(Exception refusal) {
        return of(String.valueOf(refusal.getMessage()));
    }

    /** With a capital and a full stop, where it has none. */
    public static String of(String words) {
        if (words.isEmpty()) return words;
        return Character.toUpperCase(words.charAt(0)) + words.substring(1) + (words.endsWith(".") ? "" : ".");
    }
}
