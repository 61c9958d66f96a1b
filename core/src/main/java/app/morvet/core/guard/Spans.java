package app.morvet.core.guard;

import java.time.Duration;

/** Durations as people write them in a sentence. */
public final class Spans {
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
}
