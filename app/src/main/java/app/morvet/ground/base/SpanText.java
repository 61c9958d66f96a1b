package app.morvet.ground.base;

import java.time.Duration;
import java.util.Locale;
import java.util.regex.Pattern;

/** Durations as people type them into a sentence: {@code 15 min}, {@code 2 h 30 min}, {@code 3 days}; a bare number is minutes. */
public final class SpanText {
    private static final Pattern PART = Pattern.compile(
            "(\\d{1,7}(?:[.,]\\d{1,3})?)\\s*(seconds?|sec|s|minutes?|min|m|hours?|h|days?|d|weeks?|)(?![a-z])\\s*");

    private SpanText() {}

    /** @throws IllegalArgumentException that says how it is written */
    public static Duration read(String text) {
        var left = text.strip().toLowerCase(Locale.ROOT);
        var part = PART.matcher(left);
        double seconds = 0;
        int at = 0;
        while (at < left.length() && part.find(at) && part.start() == at) {
            seconds += Double.parseDouble(part.group(1).replace(',', '.')) * unit(part.group(2));
            at = part.end();
        }
        if (left.isEmpty() || at < left.length()) {
            throw new IllegalArgumentException(
                    "\"" + text.strip() + "\" is not a duration; write it such as 15 min, 3 h or 2 days");
        }
        return Duration.ofMillis(Math.round(seconds * 1000));
    }

    private static double unit(String word) {
        if (word.isEmpty()) return 60;
        return switch (word.charAt(0)) {
            case 's' -> 1;
            case 'm' -> 60;
            case 'h' -> 3600;
            case 'd' -> 86_400;
            default -> 7 * 86_400;
        };
    }
}
