package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Schedules in words, and schedules learned from runs. */
class ScheduleWordsTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    0 1 * * *         | every day at 01:00
                    15,45 6 * * *     | every day at 06:15, 06:45
                    0 1 * * 1         | every Monday at 01:00
                    0 1 * * sun       | every Sunday at 01:00
                    0 1 * * 7         | every Sunday at 01:00
                    0 1 * * mon-fri   | Monday to Friday at 01:00
                    0 1 * * 1-5       | Monday to Friday at 01:00
                    0 18 L * *        | on the last day of the month at 18:00
                    0 18 15 * *       | on day 15 of the month at 18:00
                    * * * * *         | every minute
                    */20 * * * *      | every 20 min
                    7 * * * *         | every hour at minute 7
                    0 */2 * * *       | every 2 h at minute 0
                    0 6-22 * * *      | every hour from 06:00 to 22:00
                    30 6-22/2 * * *   | every 2 h from 06:30 to 22:30
                    @daily            | daily
                    @midnight         | daily
                    @annually         | yearly
                    0 1 * 6 *         | at 01:00 on the days of "* 6 *"
                    */7 * * * *       | by */7 * * * *
                    """)
    void aCronExpressionReadsAsPeopleSayIt(String expression, String words) {
        assertThat(ScheduleWords.of(new Schedule.Cron(CronExpression.of(expression), Schedule.OnHoliday.STARTS)))
                .isEqualTo(words);
    }

    @Test
    void holidaysAreSaidAlong() {
        var daily = CronExpression.of("0 1 * * *");
        assertThat(ScheduleWords.of(new Schedule.Cron(daily, Schedule.OnHoliday.LEFT_OUT)))
                .isEqualTo("every day at 01:00, not on holidays");
        assertThat(ScheduleWords.of(new Schedule.Cron(daily, Schedule.OnHoliday.NEXT_WORKING_DAY)))
                .isEqualTo("every day at 01:00, on the next working day if a holiday");
    }

    @ParameterizedTest
    @CsvSource({
        "1, first",
        "2, second",
        "10, tenth",
        "11, 11th",
        "-1, last",
        "-2, second from last",
        "-3, third from last"
    })
    void workingDaysAreCountedFromEitherEnd(int nth, String words) {
        assertThat(ScheduleWords.of(new Schedule.WorkingDay(nth, LocalTime.of(18, 0))))
                .isEqualTo("on the " + words + " working day of the month at 18:00");
    }

    @Test
    void everySoOftenSaysFromWhenToWhenWhereThatIsNotTheWholeDay() {
        assertThat(ScheduleWords.of(
                        new Schedule.Every(Duration.ofMinutes(20), LocalTime.MIDNIGHT, LocalTime.of(23, 59))))
                .isEqualTo("every 20 min");
        assertThat(ScheduleWords.of(
                        new Schedule.Every(Duration.ofMinutes(20), LocalTime.of(6, 0), LocalTime.of(22, 0))))
                .isEqualTo("every 20 min from 06:00 to 22:00");
    }

    /** What is learned from runs that a schedule made is a schedule that would have made them. */
    @Property(tries = 200)
    void aScheduleThatMadeTheRunsIsFoundAgain(
            @ForAll @IntRange(max = 23) int hour,
            @ForAll @IntRange(max = 59) int minute,
            @ForAll @IntRange(min = 14, max = 40) int days,
            @ForAll boolean workingDaysOnly) {
        var cron = CronExpression.of("%d %d * * %s".formatted(minute, hour, workingDaysOnly ? "mon-fri" : "*"));
        var runs = starts(cron, days, 0);
        var proposed = ScheduleProposal.of(runs, HELSINKI).orElseThrow();
        assertThat(proposed.explains()).isGreaterThanOrEqualTo(0.9);
        assertThat(ScheduleWords.of(proposed.schedule()))
                .isEqualTo((workingDaysOnly ? "Monday to Friday at " : "every day at ") + LocalTime.of(hour, minute));
    }

    @Property(tries = 200)
    void aFewRunsByHandDoNotHideIt(@ForAll @IntRange(min = 1, max = 2) int byHand) {
        var runs = new ArrayList<>(starts(CronExpression.of("30 2 * * *"), 30, 0));
        for (int i = 0; i < byHand; i++) runs.add(runs.get(10 + i).plusSeconds(5 * 3600 + 777L * i));
        assertThat(ScheduleProposal.of(runs, HELSINKI))
                .map(it -> ScheduleWords.of(it.schedule()))
                .contains("every day at 02:30");
    }

    /** Started a little late each time, as by a busy scheduler, it is proposed for when it was first seen. */
    @Test
    void whatHadToWaitIsProposedForWhenItShouldStart() {
        assertThat(ScheduleProposal.of(starts(CronExpression.of("30 2 * * *"), 21, 200), HELSINKI))
                .map(it -> ScheduleWords.of(it.schedule()))
                .contains("every day at 02:30");
    }

    @Test
    void fromTooFewRunsOrWildOnesNothingIsProposed() {
        assertThat(ScheduleProposal.of(starts(CronExpression.of("30 2 * * *"), 3, 0), HELSINKI))
                .isEmpty();
        assertThat(ScheduleProposal.of(List.of(), HELSINKI)).isEmpty();
        var wild = IntStream.range(0, 30)
                .mapToObj(i -> Instant.parse("2026-03-02T00:00:00Z").plusSeconds(50_000L * i * i % 3_000_000))
                .toList();
        assertThat(ScheduleProposal.of(wild, HELSINKI)).isEmpty();
    }

    /** The starts of some days of spring, right across the night on which the clock is put forward. */
    private static List<Instant> starts(CronExpression cron, int days, int lateSeconds) {
        var from = Instant.parse("2026-03-16T00:00:00Z");
        var timetable = new Timetable(
                List.of(new Schedule.Cron(cron, Schedule.OnHoliday.STARTS)),
                HELSINKI,
                HolidayCalendar.NONE,
                ClockChange.ONCE);
        var starts = new ArrayList<Instant>();
        for (var start : timetable.starts(from, from.plus(Duration.ofDays(days))))
            starts.add(start.plusSeconds(lateSeconds == 0 ? 0 : (starts.size() * 37L) % lateSeconds));
        return starts;
    }
}
