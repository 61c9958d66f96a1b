package app.morvet.core.checks;

/**
 * What became of one expectation.
 *
 * @param expected in words
 * @param found    what was there instead, in words; empty where it was met
 */
public record Verdict(String expected, boolean met, String found) {
    public static Verdict of(String expected, boolean met, String found) {
        return new Verdict(expected, met, met ? "" : found);
    }
}
