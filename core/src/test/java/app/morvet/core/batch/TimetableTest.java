package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.Year;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.CRC32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Starts, against tables of an independent implementation (see {@code batch/make-tables.mjs}) and by hand. */
class TimetableTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    private static List<String[]> table(String name) throws IOException {
        try (var in = TimetableTest.class.getResourceAsStream("/batch/" + name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .map(line -> line.split(" \\| ?", -1))
                    .toList();
        }
    }

    private static String line(String[] told, Timetable timetable) {
        var year = Year.parse(told[2]);
        var starts = timetable.starts(
                year.atDay(1).atStartOfDay(ZoneOffset.UTC).toInstant(),
                year.plusYears(1).atDay(1).atStartOfDay(ZoneOffset.UTC).toInstant());
        var crc = new CRC32();
        crc.update(starts.stream()
                .map(at -> "" + at.getEpochSecond() / 60)
                .collect(Collectors.joining(" "))
                .getBytes(StandardCharsets.US_ASCII));
        var first = starts.stream()
                .limit(3)
                .map(at -> at.toString().substring(0, 16) + "Z")
                .collect(Collectors.joining(" "));
        return String.join(
                " | ", told[0], told[1], told[2], "" + starts.size(), Long.toHexString(crc.getValue()), first);
    }

    private static Timetable cron(String expression, ZoneId zone, ClockChange change) {
        return new Timetable(
                List.of(new Schedule.Cron(CronExpression.of(expression), Schedule.OnHoliday.STARTS)),
                zone,
                HolidayCalendar.NONE,
                change);
    }

    @Test
    void cronStartsAreThoseOfTheTableOverTenYearsInThreeZones() throws IOException {
        var wrong = new ArrayList<String>();
        for (var told : table("cron.txt")) {
            var found = line(told, cron(told[1], ZoneId.of(told[0]), ClockChange.ONCE));
            if (!found.equals(String.join(" | ", told))) wrong.add(String.join(" | ", told) + "\n  was " + found);
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void startsAsTheClockShowsAreThoseOfTheTable() throws IOException {
        var wrong = new ArrayList<String>();
        for (var told : table("as-shown.txt")) {
            var time = LocalTime.parse(told[1]);
            var found = line(
                    told,
                    cron(time.getMinute() + " " + time.getHour() + " * * *", ZoneId.of(told[0]), ClockChange.AS_SHOWN));
            if (!found.equals(String.join(" | ", told))) wrong.add(String.join(" | ", told) + "\n  was " + found);
        }
        assertThat(wrong).isEmpty();
    }

    private static HolidayCalendar calendar(List<String> days) {
        var holidays = new TreeMap<LocalDate, String>();
        days.forEach(day -> holidays.put(LocalDate.parse(day), "holiday"));
        return new HolidayCalendar("of the test", holidays);
    }

    @Test
    void workingDaysAreThoseOfTheTable() throws IOException {
        var days = new ArrayList<String>();
        for (int year = 2020; year < 2030; year++)
            for (var day : List.of("01-06", "05-01", "12-24")) days.add(year + "-" + day);
        var calendar = calendar(days);
        for (var told : table("working-days.txt")) {
            var month = YearMonth.parse(told[0]);
            var working =
                    Arrays.stream(told[1].split(" ")).map(Integer::valueOf).toList();
            for (int nth = 1; nth <= 23; nth++) {
                var found = calendar.nthWorking(month.atDay(1), nth);
                var fromEnd = calendar.nthWorking(month.atDay(1), -nth);
                if (nth > working.size()) {
                    assertThat(found).isNull();
                    assertThat(fromEnd).isNull();
                } else {
                    assertThat(found).isEqualTo(month.atDay(working.get(nth - 1)));
                    assertThat(fromEnd).isEqualTo(month.atDay(working.get(working.size() - nth)));
                }
            }
        }
    }

    @Test
    void aRunAtHalfPastThreeOnTheNightsOfTheClock() {
        var spring = Instant.parse("2026-03-28T12:00:00Z");
        var autumn = Instant.parse("2026-10-24T12:00:00Z");
        var once = cron("30 3 * * *", HELSINKI, ClockChange.ONCE);
        var shown = cron("30 3 * * *", HELSINKI, ClockChange.AS_SHOWN);
        // 03:30 does not come in spring, since 03:00 becomes 04:00; in autumn it comes at +03 and again at +02.
        assertThat(once.next(spring, 2))
                .containsExactly(Instant.parse("2026-03-29T01:00:00Z"), Instant.parse("2026-03-30T00:30:00Z"));
        assertThat(shown.next(spring, 1)).containsExactly(Instant.parse("2026-03-30T00:30:00Z"));
        assertThat(once.next(autumn, 2))
                .containsExactly(Instant.parse("2026-10-25T00:30:00Z"), Instant.parse("2026-10-26T01:30:00Z"));
        assertThat(shown.next(autumn, 2))
                .containsExactly(Instant.parse("2026-10-25T00:30:00Z"), Instant.parse("2026-10-25T01:30:00Z"));
        assertThat(shown.doubts(autumn)).first().asString().contains("would run twice on 25 October");
        assertThat(shown.doubts(spring)).first().asString().contains("would not run on 29 March");
        assertThat(once.doubts(spring)).first().asString().contains("would run at 04:00");
        assertThat(cron("*/30 * * * *", HELSINKI, ClockChange.ONCE).doubts(autumn))
                .isEmpty();
    }

    @Test
    void halfPastTwoComesOnceInBothNightsWhereTheClockChangesAtThree() {
        for (var change : ClockChange.values()) {
            var timetable = cron("30 2 * * *", HELSINKI, change);
            assertThat(timetable.next(Instant.parse("2026-03-28T12:00:00Z"), 1))
                    .containsExactly(Instant.parse("2026-03-29T00:30:00Z"));
            assertThat(timetable.next(Instant.parse("2026-10-24T12:00:00Z"), 2))
                    .containsExactly(Instant.parse("2026-10-24T23:30:00Z"), Instant.parse("2026-10-26T00:30:00Z"));
        }
    }

    @Test
    void everySoOftenCountsElapsedTime() {
        var timetable = new Timetable(
                List.of(new Schedule.Every(Duration.ofHours(2), LocalTime.of(1, 0), LocalTime.of(6, 0))),
                HELSINKI,
                HolidayCalendar.NONE,
                ClockChange.ONCE);
        assertThat(timetable.starts(Instant.parse("2026-10-24T21:00:00Z"), Instant.parse("2026-10-25T21:00:00Z")))
                .containsExactly(
                        Instant.parse("2026-10-24T22:00:00Z"),
                        Instant.parse("2026-10-25T00:00:00Z"),
                        Instant.parse("2026-10-25T02:00:00Z"),
                        Instant.parse("2026-10-25T04:00:00Z"));
    }

    @Test
    void aStartOnAHolidayIsLeftOutOrPutOff() {
        var calendar = calendar(List.of("2026-12-24", "2026-12-25"));
        for (var rule : Schedule.OnHoliday.values()) {
            var timetable = new Timetable(
                    List.of(new Schedule.Cron(CronExpression.of("0 1 24,25 12 *"), rule)),
                    ZoneId.of("UTC"),
                    calendar,
                    ClockChange.ONCE);
            var starts = timetable.starts(Instant.parse("2026-12-25T12:00:00Z"), Instant.parse("2026-12-31T00:00:00Z"));
            // Christmas is a Thursday and a Friday in 2026; the next working day is Monday, for both of them at once.
            if (rule == Schedule.OnHoliday.NEXT_WORKING_DAY)
                assertThat(starts).containsExactly(Instant.parse("2026-12-28T01:00:00Z"));
            else assertThat(starts).isEmpty();
            assertThat(timetable.starts(Instant.parse("2026-12-24T00:00:00Z"), Instant.parse("2026-12-26T00:00:00Z")))
                    .hasSize(rule == Schedule.OnHoliday.STARTS ? 2 : 0);
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "0 25 * * *     | the hour \"25\" is wrong: it may be 0 to 23",
                "61 * * * *     | the minute \"61\" is wrong",
                "* * * *        | has five fields",
                "0 0 30 2 *     | never comes",
                "0 0 * * fri#6  | # wants 1 to 5",
                "0 0 * foo *    | the month \"foo\" is wrong: it may be 1 to 12, or jan to dec",
                "*/0 * * * *    | a step is a whole number of 1 or more",
                "0 5-1 * * *    | from the lower to the higher",
                "0 0 1,,2 * *   | a comma stands between two values",
                "0 0 32W * *    | the day of month",
            })
    void whatCannotBeMeantIsRefusedWithItsField(String expression, String words) {
        assertThatThrownBy(() -> CronExpression.of(expression))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(words);
    }

    @ParameterizedTest
    @CsvSource({
        "sun-sun, SUNDAY",
        "0-0, SUNDAY",
        "0-sun, SUNDAY",
        "sun-0, SUNDAY",
        "7-7, SUNDAY",
        "sat-sun, SATURDAY SUNDAY",
        "6-0, SATURDAY SUNDAY",
        "fri-7, FRIDAY SATURDAY SUNDAY",
        "sun-tue, MONDAY TUESDAY SUNDAY",
        "7/2, TUESDAY THURSDAY SATURDAY SUNDAY",
        "sun/2, TUESDAY THURSDAY SATURDAY SUNDAY",
        "0/3, WEDNESDAY SATURDAY SUNDAY",
        "5/2, FRIDAY",
        "mon-sun, MONDAY TUESDAY WEDNESDAY THURSDAY FRIDAY SATURDAY SUNDAY",
        "0-7, MONDAY TUESDAY WEDNESDAY THURSDAY FRIDAY SATURDAY SUNDAY"
    })
    void sundayIsOneDayWhateverItIsCalled(String field, String days) {
        var cron = CronExpression.of("0 0 * * " + field);
        var monday = LocalDate.of(2026, 11, 23);
        assertThat(IntStream.range(0, 7)
                        .mapToObj(monday::plusDays)
                        .filter(cron::fits)
                        .map(day -> day.getDayOfWeek().name()))
                .containsExactly(days.split(" "));
    }

    @Test
    void aWrongStepIsSaidToBeOne() {
        assertThatThrownBy(() -> CronExpression.of("*/99999 * * * *"))
                .hasMessage(
                        "the minute \"*/99999\" is wrong: a step of 99999 is longer than the field, which ends at 59");
        for (var wrong : List.of("*/0", "*/", "*/x", "*/-1"))
            assertThatThrownBy(() -> CronExpression.of(wrong + " * * * *"))
                    .hasMessageContaining("a step is a whole number of 1 or more");
    }

    @Test
    void aStartThatIsYearsAwayIsFound() {
        var leap = new Timetable(
                List.of(new Schedule.Cron(CronExpression.of("0 0 29 2 *"), Schedule.OnHoliday.STARTS)),
                ZoneId.of("UTC"),
                HolidayCalendar.NONE,
                ClockChange.ONCE);
        assertThat(leap.next(Instant.parse("2026-08-01T00:00:00Z"), 2))
                .containsExactly(Instant.parse("2028-02-29T00:00:00Z"), Instant.parse("2032-02-29T00:00:00Z"));
        assertThat(leap.next(Instant.parse("2096-03-01T00:00:00Z"), 1))
                .containsExactly(Instant.parse("2104-02-29T00:00:00Z"));
        assertThat(leap.doubts(Instant.parse("2026-08-01T00:00:00Z"))).isEmpty();
        assertThat(leap.doubts(Instant.parse("2028-03-01T00:00:00Z")))
                .containsExactly("would not start within the next three years");
    }
}
