package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.batch.HolidayCalendar;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** A rhythm as people say it, read and written. */
class RhythmTextTest {
    private static Rhythm read(String text) {
        return RhythmText.read(text, HolidayCalendar.NONE);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "every day at 03:00",
                "every Tuesday, Thursday at 22:40",
                "every 2 weeks on Tuesday from 2027-03-02 at 22:40",
                "on the second Tuesday of the month at 22:40",
                "on the last Friday of the month in March, June at 22:40",
                "on the third working day of the month at 18:00",
                "on the last working day of the month at 18:00, not on holidays",
                "on the second from last working day of the month at 18:00",
                "on day 1, 15 of the month in December at 01:30",
                "on the last day of the month at 01:30",
                "cron 40 22 * * 2",
                "rule FREQ=MONTHLY;BYDAY=2TU from 2027-03-09T22:40"
            })
    void whatIsWrittenIsReadBackAsTheSame(String text) {
        assertThat(RhythmText.of(read(text))).isEqualTo(text);
        assertThat(read(RhythmText.of(read(text)))).isEqualTo(read(text));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "every tue and thu at 9:05 | every Tuesday, Thursday at 09:05",
                "Every  Second Tuesday from 2027-03-02 at 22:40 | every 2 weeks on Tuesday from 2027-03-02 at 22:40",
                "every 1 week on monday at 01:00 | every Monday at 01:00",
                "on the 3rd working day of the month at 18:00 | on the third working day of the month at 18:00",
                "on the 12th working day of the month at 18:00 | on the 12th working day of the month at 18:00",
                "on day 15, 1, 1 of the month in jan, feb at 00:00 | on day 1, 15 of the month in January, February at 00:00",
                "rule freq=daily;interval=3 from 2027-03-09t22:40 | rule FREQ=DAILY;INTERVAL=3 from 2027-03-09T22:40"
            })
    void whatIsSaidOtherwiseIsUnderstood(String text, String means) {
        assertThat(RhythmText.of(read(text))).isEqualTo(means);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "now and then | is not read: say every Tuesday at 22:40",
                "every Tuesday | is not read",
                "every Tuesday at 25:00 | \"25:00\" is no time of day",
                "every Xyzday at 10:00 | \"xyzday\" is no day of the week",
                "every 2 weeks on Tuesday at 22:40 | of every 2 weeks say which is the first",
                "every 0 weeks on Tuesday from 2027-03-02 at 22:40 | every 1 to 52 weeks, not 0",
                "every 2 weeks on Tuesday from 2027-02-30 at 22:40 | is no day such as",
                "on the sixth Tuesday of the month at 22:40 | is none of first to fifth and last",
                "on day 32 of the month at 22:40 | no month has a day 32",
                "on the 24th working day of the month at 22:40 | a working day is the 1st to 23rd",
                "every day in Smarch at 10:00 | \"smarch\" is no month",
                "cron 61 * * * * | minute",
                "rule FREQ=NEVER from 2027-03-09T22:40 | is no recurrence rule",
                "rule FREQ=HOURLY from 2027-03-09T22:40 | a window recurs every day at most",
                "rule FREQ=DAILY from tomorrow | is no day and time"
            })
    void whatCannotBeSaysWhatItIs(String text, String says) {
        assertThatThrownBy(() -> read(text))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(says);
    }

    @Test
    void holidaysAndWorkingDaysAreThoseOfTheCalendar() {
        var day = LocalDate.of(2027, 3, 31);
        var calendar = new HolidayCalendar("harbours", new TreeMap<>(Map.of(day, "Harbour Day")));
        assertThat(RhythmText.read("on the last working day of the month at 18:00", calendar)
                        .begins(day.withDayOfMonth(1), day))
                .containsExactly(LocalDateTime.parse("2027-03-30T18:00"));
        assertThat(RhythmText.read("every Wednesday at 18:00, not on holidays", calendar)
                        .begins(day.withDayOfMonth(20), day))
                .containsExactly(LocalDateTime.parse("2027-03-24T18:00"));
    }
}
