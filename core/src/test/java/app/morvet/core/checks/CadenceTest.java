package app.morvet.core.checks;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How often a check runs: every so often, or at times of a zone, also where its clock is put forward. */
class CadenceTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    /** Thursday 04:38 there. */
    private static final Instant NOW = Instant.parse("2027-03-18T02:38:00Z");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    5 min         | every 5 min                                  | PT5M   | 2027-03-18T02:43:00Z
                    1 day         | every 1 day                                  | PT24H  | 2027-03-19T02:38:00Z
                    30 6 * * *    | every day at 06:30 (Europe/Helsinki)         | PT24H  | 2027-03-18T04:30:00Z
                    0 9 * * 1-5   | Monday to Friday at 09:00 (Europe/Helsinki)  | PT72H  | 2027-03-18T07:00:00Z
                    0 0 1 * *     | on day 1 of the month at 00:00 (Europe/Helsinki) | PT744H | 2027-03-31T21:00:00Z
                    """)
    void itIsReadAndSaid(String text, String words, Duration promised, Instant next) {
        var cadence = Cadence.read(text, ZONE, NOW);
        assertThat(cadence.text()).isEqualTo(text);
        assertThat(cadence.next(NOW, NOW)).isEqualTo(next);
        assertThat(cadence.every()).isBetween(promised, promised.plusHours(1));
        assertThat(Cadence.stored(cadence.every(), cadence.cron(), ZONE).next(NOW, NOW))
                .isEqualTo(next);
        assertThat(cadence.words()).isEqualToIgnoringCase(words);
    }

    @ParameterizedTest
    @CsvSource({
        "3 s,            a check runs every 10 s to every day",
        "2 days,         a check runs every 10 s to every day",
        "0 0 30 2 *,     never comes",
        "61 * * * *,     61",
        "0 0 29 2 *,     comes less than once a year",
        "often,          is not a duration",
    })
    void whatIsNoCadenceIsSaid(String text, String why) {
        assertThatThrownBy(() -> Cadence.read(text, ZONE, NOW)).hasMessageContaining(why);
    }

    @Test
    void whoHasFallenBehindBeginsAnew() {
        var every = Cadence.of(Duration.ofMinutes(1));
        assertThat(every.next(NOW, NOW.plusSeconds(5))).isEqualTo(NOW.plusSeconds(60));
        assertThat(every.next(NOW, NOW.plusSeconds(600))).isEqualTo(NOW.plusSeconds(630));
        var night = Cadence.read("30 3 * * *", ZONE, NOW);
        // On the day on which the clock goes forward over it, it comes at the change.
        assertThat(night.next(NOW, Instant.parse("2027-03-27T12:00:00Z")))
                .isEqualTo(Instant.parse("2027-03-28T01:00:00Z"));
    }
}
