package app.morvet.alerting.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** When a window is stays so over the store. */
class PlanJsonTest {
    private static final LocalDateTime MEANT = LocalDateTime.parse("2027-03-09T22:40");

    private static void staysSo(Plan plan) {
        assertThat(PlanJson.read(PlanJson.write(plan), HolidayCalendar.NONE)).isEqualTo(plan);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "every Tuesday, Thursday at 22:40 | Europe/Helsinki",
                "every 2 weeks on Tuesday from 2027-03-02 at 22:40 | UTC",
                "on the last working day of the month at 18:00, not on holidays | America/St_Johns",
                "on day 1, 15 of the month in March, June at 01:30 | Z",
                "cron 40 22 * * 2 | +02:00",
                "rule FREQ=MONTHLY;BYDAY=2TU;UNTIL=20280101T000000 from 2027-03-09T22:40 | Europe/Lisbon",
            })
    void whatRecursWithSingleTimesThatAreOtherwise(String rhythm, String zone) {
        var in = ZoneId.of(zone);
        var plain = Plan.again(RhythmText.read(rhythm, HolidayCalendar.NONE), in, Duration.ofMinutes(50));
        staysSo(plain);
        staysSo(plain.until(LocalDate.parse("2027-06-01")));
        var from = MEANT.plusHours(5).atZone(in).toInstant();
        staysSo(new Plan(
                null,
                plain.again(),
                in,
                Duration.ofDays(14),
                null,
                new TreeSet<>(java.util.List.of(MEANT.minusDays(7), MEANT.minusDays(14))),
                Map.of(MEANT, new Plan.Span(from, from.plusSeconds(3600)))));
    }

    @ParameterizedTest
    @ValueSource(strings = {"2027-03-28T00:30:00Z", "2027-10-31T00:30:00Z", "2027-03-02T20:40:15Z"})
    void whatIsOnce(String from) {
        var begin = Instant.parse(from);
        staysSo(Plan.once(begin, begin.plus(Duration.ofMinutes(7)), ZoneId.of("Europe/Helsinki")));
    }
}
