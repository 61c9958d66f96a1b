package app.morvet.sources.messages;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What a failed message is found by. The time is part of it, since that tells the day partition in which it stands.
 *
 * @param at when it failed, to the microsecond
 * @param id its number
 */
public record MessageId(Instant at, long id) {
    /** Before which every message lies. */
    public static final MessageId NEWEST = new MessageId(Instant.parse("9999-01-01T00:00:00Z"), Long.MAX_VALUE);

    private static final Pattern TEXT = Pattern.compile("(\\d{1,18})-(\\d{1,18})");

    /** As it stands in an address: microseconds since 1970, a hyphen, the number. */
    @Override
    public String toString() {
        return ChronoUnit.MICROS.between(Instant.EPOCH, at) + "-" + id;
    }

    /** Empty when a text is not such an id. */
    public static Optional<MessageId> parse(String text) {
        var parts = TEXT.matcher(text);
        if (!parts.matches()) return Optional.empty();
        return Optional.of(new MessageId(
                Instant.EPOCH.plus(Long.parseLong(parts.group(1)), ChronoUnit.MICROS), Long.parseLong(parts.group(2))));
    }
}
