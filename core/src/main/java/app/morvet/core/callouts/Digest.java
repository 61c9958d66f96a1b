package app.morvet.core.callouts;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.TextStyle;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Locale;

/**
 * What happened is gathered, and told in one message at certain times; none where nothing happened.
 *
 * @param day of a week; of no matter for others
 * @param at  time of day, by the clock of the estate; of no matter for hours
 */
public record Digest(Every every, DayOfWeek day, LocalTime at) {
    public enum Every {
        HOUR("every hour"),
        DAY("every day"),
        WEEK("every week");

        private final String words;

        Every(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    public static Digest hourly() {
        return new Digest(Every.HOUR, DayOfWeek.MONDAY, LocalTime.MIDNIGHT);
    }

    /**
     * The next time after an instant. Where the clock leaves it out it is as much later as the clock is put forward; where an hour comes
     * twice it is in the first.
     */
    public Instant next(Instant after, ZoneId zone) {
        var now = after.atZone(zone);
        return switch (every) {
            // By instants, so that an hour that comes twice is told of twice, and none is two hours long.
            case HOUR -> after.truncatedTo(ChronoUnit.HOURS).plus(Duration.ofHours(1));
            case DAY -> first(now, on(now, zone), now.plusDays(1), zone);
            case WEEK ->
                first(
                        now,
                        on(now.with(TemporalAdjusters.nextOrSame(day)), zone),
                        now.with(TemporalAdjusters.next(day)),
                        zone);
        };
    }

    private Instant first(ZonedDateTime now, ZonedDateTime time, ZonedDateTime otherDay, ZoneId zone) {
        return (time.toInstant().isAfter(now.toInstant()) ? time : on(otherDay, zone)).toInstant();
    }

    private ZonedDateTime on(ZonedDateTime day, ZoneId zone) {
        return ZonedDateTime.of(day.toLocalDate(), at, zone);
    }

    /** {@code every hour}, {@code every day at 07:00}, {@code every week on Monday at 07:00} */
    public String words() {
        return switch (every) {
            case HOUR -> every.words();
            case DAY -> every.words() + " at " + at;
            case WEEK -> every.words() + " on " + day.getDisplayName(TextStyle.FULL, Locale.ENGLISH) + " at " + at;
        };
    }
}
