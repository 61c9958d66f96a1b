package app.morvet.core.guard;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;

/** The stretch of time that ends at an instant and whose readings are counted together. */
public sealed interface CountWindow {

    /**
     * The last instant that is no longer part of the window ending at {@code end}: a reading counts when it lies after
     * this and not after {@code end}.
     */
    Instant openStart(Instant end);

    /**
     * When the window next lets go of something it holds at {@code at}.
     *
     * @param ring the readings; only its times are asked
     * @return an instant after {@code at}, or {@link Instant#MAX} where nothing will drop out
     */
    Instant nextDrop(Instant at, CountRing ring);

    /** How far back from an instant this window can ever reach; what is older need not be kept warm. */
    Duration reach();

    /** In words: {@code since midnight}, {@code over the last 15 min}. */
    String words();

    /**
     * From local midnight on. A day is 23, 24 or 25 hours long, as the zone has it.
     *
     * @param zone whose midnight
     */
    record SinceMidnight(ZoneId zone) implements CountWindow {
        @Override
        public Instant openStart(Instant end) {
            // Microseconds, since that is what the store keeps: the reading at midnight itself belongs to the new day.
            return end.atZone(zone).toLocalDate().atStartOfDay(zone).toInstant().minus(1, ChronoUnit.MICROS);
        }

        @Override
        public Instant nextDrop(Instant at, CountRing ring) {
            return at.atZone(zone).toLocalDate().plusDays(1).atStartOfDay(zone).toInstant();
        }

        @Override
        public Duration reach() {
            return Duration.ofHours(25);
        }

        @Override
        public String words() {
            return "since midnight";
        }
    }

    /**
     * Always the same length; a reading at {@code t} counts from {@code t} until just before {@code t + length}.
     *
     * @param length one minute to seven days
     */
    record Sliding(Duration length) implements CountWindow {
        public Sliding {
            if (length.compareTo(Duration.ofMinutes(1)) < 0 || length.compareTo(Duration.ofDays(7)) > 0) {
                throw new IllegalArgumentException(
                        "a sliding window is 1 min to 7 days long, was " + Spans.words(length));
            }
        }

        @Override
        public Instant openStart(Instant end) {
            return end.minus(length);
        }

        @Override
        public Instant nextDrop(Instant at, CountRing ring) {
            var oldest = ring.nextAfter(at.minus(length));
            return oldest.equals(Instant.MAX) ? oldest : oldest.plus(length);
        }

        @Override
        public Duration reach() {
            return length;
        }

        @Override
        public String words() {
            return "over the last " + Spans.words(length);
        }
    }
}
