package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** Crontabs, iCalendar, schedules in words, and where things stand in the picture of a night. */
class BatchFilesTest {
    private static final ZoneId UTC = ZoneId.of("UTC");

    @Test
    void aCrontabIsReadAndItsBadLinesAreTold() {
        var reading = Crontab.read(
                """
                # nightly
                MAILTO=ops
                30 2 * * * /opt/sundrava/bin/import-fuel-prices.sh --all
                0 25 * * * rotate-gate-keys
                CRON_TZ=Europe/Helsinki
                @daily publish-roster
                15 14 * * * /opt/sundrava/bin/archive.sh manifests
                45 15 * * * /opt/sundrava/bin/archive.sh manifests
                @reboot warm-up
                """,
                UTC);
        assertThat(reading.entries())
                .extracting(Crontab.Entry::key)
                .containsExactly("import-fuel-prices", "publish-roster", "archive");
        assertThat(reading.entries().getFirst().zone()).isEqualTo(UTC);
        assertThat(reading.entries().getLast().expressions()).hasSize(2);
        assertThat(reading.entries().getLast().zone()).isEqualTo(ZoneId.of("Europe/Helsinki"));
        assertThat(reading.wrong()).extracting(Crontab.Wrong::line).containsExactly(4, 9);
        assertThat(reading.wrong().getFirst().why()).contains("the hour \"25\" is wrong");
        assertThat(reading.wrong().getLast().why()).contains("@reboot starts with the machine");
    }

    @Test
    void whatACrontabCannotSayIsAComment() {
        var job = Job.unknown(
                "keys",
                new Timetable(
                        List.of(
                                new Schedule.Cron(CronExpression.of("0 4 * * *"), Schedule.OnHoliday.STARTS),
                                new Schedule.WorkingDay(-1, LocalTime.of(18, 0))),
                        UTC,
                        HolidayCalendar.NONE,
                        ClockChange.ONCE));
        assertThat(Crontab.write(job, "rotate"))
                .isEqualTo(
                        "0 4 * * * rotate\n# not in a crontab: keys, on the last working day of the month at 18:00\n");
        assertThat(Crontab.read(Crontab.write(job, "rotate"), UTC).entries()).hasSize(1);
    }

    @Test
    void twoCommandsOfOneNameAndTwoZonesOfOneCommandAreTold() {
        var reading = Crontab.read(
                """
                30 2 * * * /opt/a/import.sh
                40 2 * * * /opt/b/import.sh
                50 2 * *
                0 3 * * * ///
                CRON_TZ=Europe/Atlantis
                CRON_TZ=Europe/Helsinki
                45 2 * * * /opt/a/import.sh
                """,
                UTC);
        assertThat(reading.entries()).singleElement().satisfies(one -> assertThat(one.command())
                .isEqualTo("/opt/a/import.sh"));
        assertThat(reading.wrong())
                .extracting(one -> one.line() + ": " + one.why())
                .containsExactly(
                        "2: \"/opt/b/import.sh\" and line 1 would both be the job import; name one of them otherwise",
                        "3: five fields and a command are wanted, such as 30 2 * * * import-fares",
                        "4: no name can be made of \"///\"",
                        "5: \"Europe/Atlantis\" is no time zone; write one such as Europe/Helsinki",
                        "7: line 1 runs the same command in UTC; a job has one zone");
    }

    @Test
    void aJobIsSaidWithAllThatItWaitsFor() {
        var timetable = new Timetable(
                List.of(
                        new Schedule.Cron(CronExpression.of("@daily"), Schedule.OnHoliday.LEFT_OUT),
                        new Schedule.Cron(CronExpression.of("0 6 1 * *"), Schedule.OnHoliday.NEXT_WORKING_DAY),
                        new Schedule.WorkingDay(-2, LocalTime.of(18, 0)),
                        new Schedule.WorkingDay(11, LocalTime.of(9, 0))),
                UTC,
                HolidayCalendar.NONE,
                ClockChange.ONCE);
        var waits = new Job(
                "bank",
                "",
                timetable,
                List.of("ledger"),
                List.of("rates-*.csv"),
                LocalTime.of(4, 0),
                Duration.ofMinutes(10),
                null,
                null,
                0,
                ExitCodes.USUAL,
                Duration.ZERO,
                0);
        assertThat(ScheduleWords.of(waits, key -> "Post to " + key))
                .isEqualTo("daily, not on holidays, and on day 1 of the month at 06:00, on the next working day if a"
                        + " holiday, and on the second from last working day of the month at 18:00, and on the 11th"
                        + " working day of the month at 09:00, after Post to ledger, when rates-*.csv is there, not"
                        + " before 04:00");
        var nothing = new Timetable(List.of(), UTC, HolidayCalendar.NONE, ClockChange.ONCE);
        assertThat(ScheduleWords.of(Job.unknown("new", nothing), key -> key)).isEqualTo("not scheduled");
    }

    @Test
    void schedulesAreSaidAsPeopleSayThem() {
        for (var one : new TreeMap<String, String>(java.util.Map.of(
                        "0 1 * * *", "every day at 01:00",
                        "*/20 * * * *", "every 20 min",
                        "30 4 * * mon-fri", "Monday to Friday at 04:30",
                        "0 6 * * tue", "every Tuesday at 06:00",
                        "0 6 L * *", "on the last day of the month at 06:00",
                        "5 * * * *", "every hour at minute 5",
                        "20 5-21 * * *", "every hour from 05:20 to 21:20",
                        "45 0-22/2 * * *", "every 2 h from 00:45 to 22:45",
                        "0 9 * * fri#3", "at 09:00 on the days of \"* * fri#3\""))
                .entrySet())
            assertThat(ScheduleWords.of(new Schedule.Cron(CronExpression.of(one.getKey()), Schedule.OnHoliday.STARTS)))
                    .isEqualTo(one.getValue());
        assertThat(ScheduleWords.of(
                        new Schedule.Cron(CronExpression.of("0 1 * * *"), Schedule.OnHoliday.NEXT_WORKING_DAY)))
                .isEqualTo("every day at 01:00, on the next working day if a holiday");
        assertThat(ScheduleWords.of(
                        new Schedule.Every(Duration.ofMinutes(20), LocalTime.of(6, 0), LocalTime.of(22, 0))))
                .isEqualTo("every 20 min from 06:00 to 22:00");
    }

    private static PlanLayout.Line line(String key, String chain, boolean quiet, Instant from) {
        return new PlanLayout.Line(
                key,
                key,
                chain,
                List.of(new PlanLayout.Piece(
                        PlanLayout.Kind.ACTUAL, from, from.plusSeconds(600), Outcome.ON_TIME, "", () -> key)),
                List.of(),
                quiet);
    }

    @Test
    void quietJobsFoldWhereThereAreMoreThanCanBeRead() {
        var from = Jobs.at("00:00");
        var lines = new ArrayList<PlanLayout.Line>();
        for (int i = 0; i < 400; i++)
            lines.add(line("c" + i, i < 200 ? "one" : "two", i != 7, from.plusSeconds(60L * i)));
        for (int i = 0; i < 20; i++) lines.add(line("s" + i, "", true, from));
        var folded =
                PlanLayout.of(lines, from, from.plusSeconds(43_200), from.plusSeconds(3600), UTC, "Others", 900, false);
        assertThat(folded.rows())
                .extracting(PlanLayout.Row::name)
                .containsExactly("c7", "199 quiet", "200 quiet", "20 quiet");
        // Jobs of a quiet row that run one after the other are one bar.
        assertThat(folded.bars()).hasSize(4);
        assertThat(folded.now()).isEqualTo(75);
        assertThat(folded.height()).isLessThan(250);
        var planned = lines.stream()
                .map(line -> new PlanLayout.Line(
                        line.key(),
                        line.name(),
                        line.chain(),
                        line.pieces().stream()
                                .map(piece -> new PlanLayout.Piece(
                                        PlanLayout.Kind.EXPECTED,
                                        piece.from(),
                                        piece.to(),
                                        Outcome.PLANNED,
                                        "",
                                        () -> ""))
                                .toList(),
                        List.of(),
                        true))
                .toList();
        // Far ahead nothing but the plan is known, and it is shown.
        assertThat(PlanLayout.of(planned, from, from.plusSeconds(43_200), from, UTC, "Others", 900, false)
                        .bars())
                .isNotEmpty();
        var whole = PlanLayout.of(lines, from, from.plusSeconds(43_200), from, UTC, "Others", 900, true);
        assertThat(whole.rows()).hasSize(420);
        // No two rows lie over each other, and every bar lies in the picture.
        assertThat(whole.rows().stream().map(PlanLayout.Row::y).distinct()).hasSize(420);
        assertThat(whole.bars()).allSatisfy(bar -> {
            assertThat(bar.x()).isBetween(0.0, 900.0);
            assertThat(bar.x() + bar.width()).isLessThanOrEqualTo(902);
        });
    }

    @Test
    void exitCodesAreReadAndSaid() {
        var codes = ExitCodes.read("4 = warning: nothing to do\n12=failed : rate table missing\n");
        assertThat(codes.of(4)).isEqualTo(new ExitCodes.Meaning(Run.End.WARNED, "nothing to do"));
        assertThat(codes.of(12).words()).isEqualTo("rate table missing");
        assertThat(codes.of(0).end()).isEqualTo(Run.End.FINE);
        assertThat(codes.of(9).end()).isEqualTo(Run.End.FAILED);
        assertThat(ExitCodes.read(codes.text())).isEqualTo(codes);
        assertThatThrownBy(() -> ExitCodes.read("x = fine")).hasMessageContaining("\"x = fine\" is not read");
    }
}
