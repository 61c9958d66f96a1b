package app.morvet.core.guard;

import java.time.Duration;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Durations as people write them in a sentence. */
public final class Spans {
    private static final Pattern PART = Pattern.compile(
            "(\\d{1,7}(?:[.,]\\d{1,3})?)\\s*(ms|seconds?|sec|s|minutes?|min|m|hours?|h|days?|d|weeks?|)(?![a-z])\\s*");

    private Spans() {}

    /** {@code 45 s}, {@code 5 min}, {@code 2 h}, {@code 2 h 30 min}, {@code 3 days}; never more than two parts. */
    public static String words(Duration span) {
        long seconds = span.toSeconds();
        if (seconds < 60) return seconds + " s";
        if (seconds < 3600) return join(seconds / 60 + " min", seconds % 60, "s");
        if (seconds < 86_400) return join(seconds / 3600 + " h", seconds % 3600 / 60, "min");
        long days = seconds / 86_400;
        return join(days + (days == 1 ? " day" : " days"), seconds % 86_400 / 3600, "h");
    }

    private static String join(String first, long rest, String unit) {
        return rest == 0 ? first : first + " " + rest + " " + unit;
    }

    /**
     * Reads what people type: {@code 15 min}, {@code 2 h 30 min}, {@code 3 days}, {@code 800 ms}; a bare number is minutes.
     *
     * @throws IllegalArgumentException that says how it is written
     */
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

    /** The same where nothing may be typed, for none. */
    public static @Nullable Duration readOrNone(String text) {
        return text.isBlank() ? null : read(text);
    }

    public static String wordsOrNone(@Nullable Duration span) {
        return span == null ? "" : words(span);
    }

    private static double unit(String word) {
        if (word.isEmpty()) return 60;
        return switch (word.charAt(0)) {
            case 's' -> 1;
            case 'm' -> word.equals("ms") ? 0.001 : 60;
            case 'h' -> 3600;
            case 'd' -> 86_400;
            default -> 7 * 86_400;
        };
    }
}
