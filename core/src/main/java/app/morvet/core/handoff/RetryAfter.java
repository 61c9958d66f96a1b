package app.morvet.core.handoff;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;

/** How long a server wants not to be asked again (RFC 9110, 10.2.3): a number of seconds, or an instant. */
public final class RetryAfter {
    /** Whoever asks for more is asked again by then. */
    public static final Duration LONGEST = Duration.ofHours(1);

    private RetryAfter() {}

    /**
     * @param said the header; empty where there is none
     * @param now  by the clock of the world, since the server means that
     * @return zero where it says nothing that can be read; never more than an hour
     */
    public static Duration read(String said, Instant now) {
        var text = said.strip();
        if (text.matches("\\d{1,9}")) return least(Duration.ofSeconds(Long.parseLong(text)));
        try {
            var at = Instant.from(DateTimeFormatter.RFC_1123_DATE_TIME.parse(text));
            return at.isAfter(now) ? least(Duration.between(now, at)) : Duration.ZERO;
        } catch (DateTimeException none) {
            return Duration.ZERO;
        }
    }

    private static Duration least(Duration wait) {
        return wait.compareTo(LONGEST) > 0 ? LONGEST : wait;
    }
}
