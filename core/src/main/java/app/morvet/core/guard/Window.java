package app.morvet.core.guard;

import app.morvet.core.readings.Micros;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;

/** The stretch of time that ends at an instant and whose readings are judged together. */
public sealed interface Window {

    /**
     * The last instant that is no longer part of the window ending at {@code end}: a reading belongs to it when it lies
     * after this and not after {@code end}.
     */
    Instant openStart(Instant end);

    /** How far back from an instant this window can ever reach. */
    Duration reach();

    /** In words: {@code since midnight}, {@code over the last 15 min}. */
    String words();

    /**
     * From local midnight on. A day is 23, 24 or 25 hours long, as the zone has it.
     *
     * @param zone whose midnight
     */
    record SinceMidnight(ZoneId zone) implements Window {
        @Override
        public Instant openStart(Instant end) {
            // Microseconds, since that is what the store keeps: the reading at midnight itself belongs to the new day.
            return midnight(end, 0).minus(1, ChronoUnit.MICROS);
        }

        /** The first local midnight after an instant. */
        Instant nextMidnight(Instant at) {
            return midnight(at, 1);
        }

        private Instant midnight(Instant at, int days) {
            return at.atZone(zone)
                    .toLocalDate()
                    .plusDays(days)
                    .atStartOfDay(zone)
                    .toInstant();
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
     * Always the same length; a reading at {@code t} belongs to it from {@code t} until just before {@code t + length}.
     *
     * @param length one minute to seven days
     */
    record Sliding(Duration length) implements Window {
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

        long micros() {
            return Micros.of(length);
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
