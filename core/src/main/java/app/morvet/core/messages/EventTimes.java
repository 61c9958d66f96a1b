package app.morvet.core.messages;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** Which times of events are believed. */
public final class EventTimes {
    /** Clocks differ; more than this ahead is a wrong clock. */
    public static final Duration AHEAD = Duration.ofMinutes(5);

    /** What is older than this is of no use to a shift, and a mistyped year would be. */
    public static final Duration BACK = Duration.ofDays(90);

    private EventTimes() {}

    /** Why an event's time is refused; empty when it is believed. */
    public static Optional<String> refusal(Instant at, Instant now) {
        if (at.isAfter(now.plus(AHEAD))) {
            return Optional.of("time %s is more than %d min in the future; check the sender's clock"
                    .formatted(at, AHEAD.toMinutes()));
        }
        if (at.isBefore(now.minus(BACK))) {
            return Optional.of("time %s is more than %d days old".formatted(at, BACK.toDays()));
        }
        return Optional.empty();
    }
}
