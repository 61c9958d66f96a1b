package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What is learned from runs: their schedule, the days of their trouble, what differs in their output. */
class LearningTest {
    private static final Instant BEGIN = Instant.parse("2026-03-02T02:30:00Z"); // a Monday

    private static String proposed(List<Instant> starts) {
        return ScheduleProposal.of(starts, Jobs.UTC)
                .map(one -> ScheduleWords.of(one.schedule()))
                .orElse("nothing");
    }

    @Test
    void aScheduleIsLearnedFromRuns() {
        var daily = new ArrayList<Instant>();
        var weekdays = new ArrayList<Instant>();
        var often = new ArrayList<Instant>();
        var wild = new ArrayList<Instant>();
        for (int i = 0; i < 14; i++) {
            daily.add(BEGIN.plus(Duration.ofDays(i)).plusSeconds(i * 7 % 60));
            if (i % 7 < 5) weekdays.add(BEGIN.plus(Duration.ofDays(i)).plusSeconds(60L * (i % 3)));
            often.add(BEGIN.plus(Duration.ofMinutes(20L * i)));
            wild.add(BEGIN.plus(Duration.ofMinutes(97L * i * i)));
        }
        assertThat(proposed(daily)).isEqualTo("every day at 02:30");
        assertThat(proposed(weekdays)).isEqualTo("Monday to Friday at 02:30");
        assertThat(proposed(often)).isEqualTo("every 20 min from 00:10 to 23:59");
        assertThat(proposed(wild)).isEqualTo("nothing");
        assertThat(proposed(daily.subList(0, 6))).isEqualTo("every day at 02:30");
        assertThat(proposed(daily.subList(0, 3))).isEqualTo("nothing");
    }

    @Test
    void troubleOfEverySecondTuesdayIsSeen() {
        var first = LocalDate.parse("2026-03-03");
        assertThat(Recurrence.of(List.of(first, first.plusDays(14), first.plusDays(28), first.plusDays(42))))
                .contains("4 of 4 on a Tuesday, every second one");
        assertThat(Recurrence.of(List.of(first, first.plusDays(7), first.plusDays(28), first.plusDays(30))))
                .contains("3 of 4 on a Tuesday");
        assertThat(Recurrence.of(List.of(first, first.plusDays(1), first.plusDays(2), first.plusDays(3))))
                .isEmpty();
        assertThat(Recurrence.of(List.of(
                        LocalDate.parse("2026-03-31"), LocalDate.parse("2026-04-30"), LocalDate.parse("2026-06-01"))))
                .contains("3 of 3 at the turn of the month");
    }

    @Test
    void whatDiffersInTwoOutputsIsMarkedAndFiguresDoNotCount() {
        var rows = OutputComparison.of(
                "02:15:00 begins, run 17\n02:15:04 58 records\nERROR no space left\n02:15:09 exit code 28",
                "03:15:00 begins, run 16\n03:15:02 61 records\ndone\n03:15:09 exit code 0");
        assertThat(rows)
                .containsExactly(
                        new OutputComparison.Row(
                                OutputComparison.Same.SAME, "02:15:00 begins, run 17", "03:15:00 begins, run 16"),
                        new OutputComparison.Row(
                                OutputComparison.Same.SAME, "02:15:04 58 records", "03:15:02 61 records"),
                        new OutputComparison.Row(OutputComparison.Same.LEFT_ONLY, "ERROR no space left", ""),
                        new OutputComparison.Row(OutputComparison.Same.RIGHT_ONLY, "", "done"),
                        new OutputComparison.Row(
                                OutputComparison.Same.SAME, "02:15:09 exit code 28", "03:15:09 exit code 0"));
    }
}
