package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When what was gathered is told. */
class DigestTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    @ParameterizedTest
    @CsvSource({
        // every, day, at, after, next
        "HOUR, MONDAY,   00:00, 2027-03-18T02:39:00Z, 2027-03-18T03:00:00Z",
        "HOUR, MONDAY,   00:00, 2027-03-18T03:00:00Z, 2027-03-18T04:00:00Z",
        "DAY,  MONDAY,   07:00, 2027-03-18T02:39:00Z, 2027-03-18T05:00:00Z",
        "DAY,  MONDAY,   07:00, 2027-03-18T05:00:00Z, 2027-03-19T05:00:00Z",
        // The night on which the clock is put forward: 07:00 is at 04:00 by UTC from then on.
        "DAY,  MONDAY,   07:00, 2027-03-27T05:00:00Z, 2027-03-28T04:00:00Z",
        // A time that this night leaves out is an hour later.
        "DAY,  MONDAY,   03:30, 2027-03-27T20:00:00Z, 2027-03-28T01:30:00Z",
        // One that comes twice is in the first of the two hours.
        "DAY,  MONDAY,   03:30, 2027-10-30T20:00:00Z, 2027-10-31T00:30:00Z",
        "WEEK, MONDAY,   07:00, 2027-03-18T02:39:00Z, 2027-03-22T05:00:00Z",
        "WEEK, THURSDAY, 07:00, 2027-03-18T02:39:00Z, 2027-03-18T05:00:00Z",
        "WEEK, THURSDAY, 07:00, 2027-03-18T05:00:00Z, 2027-03-25T05:00:00Z",
    })
    void theNextTimeIsByTheClockOfTheEstate(
            Digest.Every every, DayOfWeek day, LocalTime at, Instant after, Instant next) {
        assertThat(new Digest(every, day, at).next(after, HELSINKI)).isEqualTo(next);
    }

    @Property(tries = 500)
    void itIsAlwaysAheadAndNeverFurtherThanItsSpan(
            @ForAll Digest.Every every,
            @ForAll DayOfWeek day,
            @ForAll @IntRange(max = 1_439) int minute,
            @ForAll @IntRange(max = 600_000) int after) {
        var digest = new Digest(every, day, LocalTime.ofSecondOfDay(minute * 60L));
        var now = Instant.parse("2026-10-01T00:00:00Z").plus(Duration.ofMinutes(after));
        var next = digest.next(now, HELSINKI);
        var longest =
                switch (every) {
                    case HOUR -> Duration.ofHours(1);
                    case DAY -> Duration.ofHours(25);
                    case WEEK -> Duration.ofDays(7).plusHours(1);
                };
        assertThat(next).isAfter(now).isBeforeOrEqualTo(now.plus(longest));
        if (every != Digest.Every.HOUR) {
            var local = next.atZone(HELSINKI).toLocalTime();
            assertThat(local.equals(digest.at()) || local.equals(digest.at().plusHours(1)))
                    .as("%s at %s", digest.words(), next)
                    .isTrue();
        }
    }

    @Test
    void itReadsAsWords() {
        assertThat(Digest.hourly().words()).isEqualTo("every hour");
        assertThat(new Digest(Digest.Every.DAY, DayOfWeek.MONDAY, LocalTime.of(7, 0)).words())
                .isEqualTo("every day at 07:00");
        assertThat(new Digest(Digest.Every.WEEK, DayOfWeek.FRIDAY, LocalTime.of(14, 30)).words())
                .isEqualTo("every week on Friday at 14:30");
    }
}
