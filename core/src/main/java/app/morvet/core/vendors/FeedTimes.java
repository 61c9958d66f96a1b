package app.morvet.core.vendors;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import org.jspecify.annotations.Nullable;

/** Instants as feeds write them: RFC 3339, RFC 1123 as RSS has it, seconds or milliseconds since 1970; without a zone it is UTC. */
final class FeedTimes {
    private static final long FIRST_MILLIS = 100_000_000_000L;

    private FeedTimes() {}

    /** Null where it is none. */
    static @Nullable Instant read(@Nullable Object written) {
        if (written == null) return null;
        if (written instanceof Number number) return ofNumber(number.longValue());
        var text = written.toString().strip();
        if (text.isEmpty()) return null;
        if (text.matches("\\d{9,13}")) return ofNumber(Long.parseLong(text));
        try {
            return OffsetDateTime.parse(text.replaceFirst("^(\\S{10}) (\\S)", "$1T$2"))
                    .toInstant();
        } catch (DateTimeException other) {
            return local(text);
        }
    }

    private static Instant ofNumber(long number) {
        return Math.abs(number) >= FIRST_MILLIS ? Instant.ofEpochMilli(number) : Instant.ofEpochSecond(number);
    }

    private static @Nullable Instant local(String text) {
        try {
            return LocalDateTime.parse(text.replace(' ', 'T')).toInstant(ZoneOffset.UTC);
        } catch (DateTimeException other) {
            try {
                return Instant.from(DateTimeFormatter.RFC_1123_DATE_TIME.parse(text));
            } catch (DateTimeException none) {
                return null;
            }
        }
    }
}
