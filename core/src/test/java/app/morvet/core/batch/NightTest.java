package app.morvet.core.batch;

import static app.morvet.core.batch.Jobs.at;
import static app.morvet.core.batch.Jobs.job;
import static app.morvet.core.batch.Jobs.minutes;
import static app.morvet.core.batch.Jobs.ran;
import static app.morvet.core.batch.Jobs.run;
import static app.morvet.core.batch.Jobs.running;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class NightTest {
    private static final JobGraph CHAIN = JobGraph.of(List.of(
            Jobs.due("bank", "", "06:30", "ledger"),
            job("ledger", "", "settle"),
            job("settle", "", "rate"),
            job("rate", "0 1 * * *"),
            job("keys", "0 4 * * *")));

    private static Night night(JobGraph graph, String now, Jobs.Known known) {
        return Night.of(graph, at("00:00"), at("23:00"), at(now), known);
    }

    private static Outcome outcome(String job, Night night) {
        return night.of(job).getFirst().outcome();
    }

    private static List<RunWatch.Finding> findings(Night night) {
        return findings(night, List.of(), Set.of());
    }

    private static List<RunWatch.Finding> findings(Night night, List<WhatIf> changes, Set<String> before) {
        var forecast = Forecast.of(night, List.of(), job -> -1, changes, 2000, 1);
        return new RunWatch(forecast, Jobs.UTC, key -> key).findings(before, job -> 60);
    }

    @Test
    void everyStartHasItsOutcome() {
        var one = JobGraph.of(List.of(job("keys", "0 4 * * *")));
        assertThat(outcome("keys", night(one, "03:59", new Jobs.Known()))).isEqualTo(Outcome.PLANNED);
        assertThat(outcome("keys", night(one, "04:10", new Jobs.Known()))).isEqualTo(Outcome.DUE);
        assertThat(outcome("keys", night(one, "04:11", new Jobs.Known()))).isEqualTo(Outcome.DID_NOT_START);
        assertThat(outcome("keys", night(one, "04:20", new Jobs.Known().with("keys", running("04:01")))))
                .isEqualTo(Outcome.RUNNING);
        assertThat(outcome("keys", night(one, "04:50", new Jobs.Known().with("keys", running("04:01")))))
                .isEqualTo(Outcome.RUNNING_LONG);
        assertThat(outcome("keys", night(one, "07:02", new Jobs.Known().with("keys", running("04:01")))))
                .isEqualTo(Outcome.OUT_OF_TIME);
        var fine = ran("04:01", "04:30", Run.End.FINE);
        assertThat(outcome("keys", night(one, "05:00", new Jobs.Known().with("keys", fine))))
                .isEqualTo(Outcome.ON_TIME);
        assertThat(outcome(
                        "keys",
                        night(one, "05:00", new Jobs.Known().with("keys", ran("04:11", "04:30", Run.End.FINE)))))
                .isEqualTo(Outcome.LATE);
        var failed = ran("04:01", "04:05", Run.End.FAILED);
        assertThat(outcome("keys", night(one, "05:00", new Jobs.Known().with("keys", failed))))
                .isEqualTo(Outcome.FAILED);
        assertThat(outcome(
                        "keys",
                        night(
                                one,
                                "05:00",
                                new Jobs.Known().with("keys", failed, ran("04:20", "04:40", Run.End.FINE)))))
                .isEqualTo(Outcome.RECOVERED);
        assertThat(outcome(
                        "keys",
                        night(one, "05:00", new Jobs.Known().with("keys", ran("04:01", "04:05", Run.End.CANCELLED)))))
                .isEqualTo(Outcome.CANCELLED);
        var twice = night(one, "06:00", new Jobs.Known().with("keys", fine, ran("05:00", "05:20", Run.End.FINE)));
        assertThat(twice.strays()).hasSize(1);
        assertThat(findings(twice)).extracting(RunWatch.Finding::trouble).containsExactly(RunTrouble.NOT_EXPECTED);
    }

    @Test
    void aRunWhoseEndIsNotKnownYetIsStillRunning() {
        var night = night(CHAIN, "01:20", new Jobs.Known().with("rate", ran("01:00", "01:31", Run.End.FAILED)));
        assertThat(outcome("rate", night)).isEqualTo(Outcome.RUNNING);
    }

    @Test
    void normalRetriesAreNoFailure() {
        var patient = new Job(
                "keys",
                "",
                Jobs.daily("0 4 * * *"),
                List.of(),
                List.of(),
                null,
                Duration.ofMinutes(10),
                null,
                null,
                1,
                ExitCodes.USUAL,
                Duration.ZERO,
                0);
        var graph = JobGraph.of(List.of(patient));
        var failed = ran("04:00", "04:02", Run.End.FAILED);
        assertThat(outcome("keys", night(graph, "04:05", new Jobs.Known().with("keys", failed))))
                .isEqualTo(Outcome.TO_BE_RETRIED);
        assertThat(outcome("keys", night(graph, "04:18", new Jobs.Known().with("keys", failed))))
                .isEqualTo(Outcome.FAILED);
        assertThat(outcome(
                        "keys",
                        night(
                                graph,
                                "04:08",
                                new Jobs.Known().with("keys", failed, ran("04:04", "04:06", Run.End.FAILED)))))
                .isEqualTo(Outcome.FAILED);
    }

    @Test
    void whoOnlyWaitsIsHeldUpAndNamedAndMakesNoFindingOfItsOwn() {
        var known = new Jobs.Known()
                .with("rate", ran("01:00", "01:30", Run.End.FINE))
                .with("settle", ran("01:30", "01:40", Run.End.FAILED));
        var night = night(CHAIN, "03:30", known);
        assertThat(outcome("ledger", night)).isEqualTo(Outcome.HELD_UP);
        assertThat(outcome("bank", night)).isEqualTo(Outcome.HELD_UP);
        var found = findings(night);
        assertThat(found).singleElement().satisfies(one -> {
            assertThat(one.trouble()).isEqualTo(RunTrouble.FAILED);
            assertThat(one.heldUp()).containsExactly("ledger", "bank");
            assertThat(one.words()).isEqualTo("settle failed with exit code 12 at 01:40; held up: ledger, bank");
        });
        // At 05:40 three times half an hour do not fit any more, even when it is run again at once.
        assertThat(findings(night(CHAIN, "05:40", known)))
                .filteredOn(one -> one.trouble() == RunTrouble.DEADLINE_AT_RISK)
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.cause()).isEqualTo("settle");
                    assertThat(one.words())
                            .matches(
                                    "bank likely 07:(0[5-9]|1[0-5]) if settle is run again now, deadline 06:30 \\(0\u00a0% to make it\\): settle failed at 01:40");
                });
    }

    @Test
    void aSlowJobPutsADeadlineAtRiskLongBeforeAnythingIsLate() {
        var known = new Jobs.Known()
                .lasting("settle", minutes(50, 60, 70))
                .with("rate", ran("01:00", "01:30", Run.End.FINE))
                .with(
                        "settle",
                        new Run(
                                77,
                                at("01:30"),
                                null,
                                null,
                                null,
                                Run.Trigger.SCHEDULE,
                                null,
                                null,
                                10.0,
                                at("02:30")));
        var night = night(CHAIN, "02:30", known);
        assertThat(outcome("settle", night)).isEqualTo(Outcome.RUNNING);
        // A tenth in an hour: ten hours in all, half believed; then half an hour for each of two more.
        var found = findings(night);
        assertThat(found).singleElement().satisfies(one -> {
            assertThat(one.trouble()).isEqualTo(RunTrouble.DEADLINE_AT_RISK);
            assertThat(one.job()).isEqualTo("bank");
            assertThat(one.cause()).isEqualTo("settle");
            assertThat(one.words()).contains("deadline 06:30").contains("settle will likely take");
        });
        assertThat(findings(night, List.of(new WhatIf.Rerun("settle")), Set.of()))
                .isEmpty();
        assertThat(findings(night, List.of(new WhatIf.Skip("settle")), Set.of()))
                .isEmpty();
    }

    @Test
    void aChanceThatWaversAboutItsLimitDoesNotComeAndGo() {
        var graph = JobGraph.of(List.of(Jobs.due("keys", "0 4 * * *", "04:32")));
        // Between 20 and 40 minutes: 04:32 is made in somewhat over 60 of 100.
        var night = night(graph, "03:00", new Jobs.Known().lasting("keys", minutes(20, 30, 40)));
        double makes = Forecast.of(night, List.of(), job -> -1, List.of(), 2000, 1)
                .ahead()
                .getFirst()
                .makes();
        assertThat(makes).isBetween(0.6, 0.7);
        assertThat(findings(night)).isEmpty();
        assertThat(findings(night, List.of(), Set.of("keys"))).hasSize(1);
    }

    @Test
    void aSuccessTooShortOrTooSmallIsSuspicious() {
        var graph = JobGraph.of(List.of(job("keys", "0 4 * * *")));
        var quick = run(at("04:00"), at("04:00").plusSeconds(2), Run.End.FINE, 0);
        assertThat(findings(night(graph, "05:00", new Jobs.Known().with("keys", quick))))
                .singleElement()
                .satisfies(one ->
                        assertThat(one.words()).contains("done after 2 s").contains("less than 5 s"));
        var few = new Run(9, at("04:00"), at("04:20"), Run.End.FINE, null, Run.Trigger.SCHEDULE, 0, 3L, null, null);
        assertThat(findings(night(graph, "05:00", new Jobs.Known().with("keys", few))))
                .singleElement()
                .satisfies(one -> assertThat(one.words()).contains("with 3 records; fewer than 10"));
    }

    @Test
    void aJobWaitsForItsFile() {
        var fuel = new Job(
                "fuel",
                "",
                Jobs.daily("0 4 * * *"),
                List.of(),
                List.of("prices-*.csv"),
                null,
                Duration.ofMinutes(10),
                null,
                null,
                0,
                ExitCodes.USUAL,
                Duration.ZERO,
                0);
        var graph = JobGraph.of(List.of(fuel));
        assertThat(outcome("fuel", night(graph, "05:00", new Jobs.Known().file("other.csv", "03:00"))))
                .isEqualTo(Outcome.HELD_UP);
        assertThat(outcome("fuel", night(graph, "05:00", new Jobs.Known().file("prices-18.csv", "04:55"))))
                .isEqualTo(Outcome.DUE);
        assertThat(outcome("fuel", night(graph, "05:10", new Jobs.Known().file("prices-18.csv", "04:55"))))
                .isEqualTo(Outcome.DID_NOT_START);
    }

    @Test
    void jobsThatWaitForEachOtherAreRefusedWithTheCycle() {
        assertThatThrownBy(() -> JobGraph.of(
                        List.of(job("a", "0 1 * * *"), job("b", "", "a", "d"), job("c", "", "b"), job("d", "", "c"))))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessage("these jobs wait for each other: b waits for d waits for c waits for b");
    }

    @Test
    void startingItNowAndSkippingChangeWhatFollows() {
        var night = night(CHAIN, "00:30", new Jobs.Known());
        var plain = Forecast.of(night, List.of(), job -> -1, List.of(), 2000, 1);
        var bank = night.of("bank").getFirst();
        assertThat(plain.of(bank).end().likely()).isBetween(at("02:50"), at("03:10"));
        var sooner = Forecast.of(night, List.of(), job -> -1, List.of(new WhatIf.StartNow("rate")), 2000, 1);
        assertThat(Duration.between(
                                sooner.of(bank).end().likely(),
                                plain.of(bank).end().likely())
                        .toMinutes())
                .isBetween(28L, 32L);
        assertThat(plain.decidingPath(bank))
                .extracting(one -> one.job().key())
                .containsExactly("rate", "settle", "ledger", "bank");
    }

    @Test
    void eachSchedulerHasSlotsOfItsOwnAndTooFewAreForetold() {
        var graph = JobGraph.of(List.of(
                job("first", "0 2 * * *"),
                job("second", "10 2 * * *"),
                job("elsewhere", "0 2 * * *"),
                job("unlimited", "0 2 * * *")));
        var known = new Jobs.Known();
        for (var key : List.of("first", "second", "elsewhere", "unlimited"))
            known.lasting(key, Jobs.minutes(30, 30, 30));
        Forecast.Pools pools = one -> switch (one.key()) {
            case "first", "second" -> 0;
            case "elsewhere" -> 1;
            default -> -1;
        };
        var forecast = Forecast.of(night(graph, "01:30", known), List.of(1, 1), pools, List.of(), 2000, 1);
        assertThat(Concurrency.shortages(forecast, at("06:00")))
                .containsExactly(new Concurrency.Shortage(at("02:10"), at("02:30"), 2, 1));
        assertThat(Concurrency.shortages(forecast, at("02:05"))).isEmpty();
        // The second waits for the first one's slot; the one without a limit takes none.
        assertThat(Concurrency.of(forecast))
                .containsExactly(
                        new Concurrency.Step(at("02:00"), 2),
                        new Concurrency.Step(at("02:30"), 1),
                        new Concurrency.Step(at("03:00"), 0));
    }

    @Test
    void whatRunsAndIsPlayedThroughAsSkippedTakesItsSlotUntilNow() {
        var night = night(CHAIN, "01:20", new Jobs.Known().with("rate", running("01:00")));
        var skipped = Forecast.of(night, List.of(), job -> -1, List.of(new WhatIf.Skip("rate")), 500, 1);
        assertThat(Concurrency.of(skipped))
                .startsWith(new Concurrency.Step(at("01:00"), 1))
                .doesNotContain(new Concurrency.Step(at("01:20"), 2));
    }

    @Test
    void aGuardIsItsSentence() {
        var guard = new RunGuard(
                RunTrouble.DEADLINE_AT_RISK, Scope.ofChain("Close of sailing day"), Severity.WARNING, 60, 10);
        assertThat(guard.sentence(key -> key))
                .isEqualTo(
                        "When a job of the chain Close of sailing day has a chance below 60 % to make its deadline, raise a warning; below 10 %, a critical.");
        assertThat(guard.severityOf(0.5)).isEqualTo(Severity.WARNING);
        assertThat(guard.severityOf(0.05)).isEqualTo(Severity.CRITICAL);
        assertThat(RunGuard.of(RunTrouble.DID_NOT_START, Scope.ALL, Severity.CRITICAL)
                        .sentence(key -> key))
                .isEqualTo("When any job did not start by its latest start, raise a critical.");
    }

    @Test
    void usualDurationForgetsSlowlyAndKnowsTheTurnOfTheMonthAndItsWeekdays() {
        var now = Instant.parse("2026-06-15T00:00:00Z");
        var seen = new java.util.ArrayList<UsualDuration.Seen>();
        for (int day = 1; day <= 120; day++) {
            var at = now.minus(Duration.ofDays(day));
            var date = at.atZone(Jobs.UTC).toLocalDate();
            double seconds = 600 + day % 7;
            if (date.getDayOfMonth() == 1 || date.getDayOfMonth() == date.lengthOfMonth()) seconds = 3600 + day % 3;
            else if (date.getDayOfWeek() == java.time.DayOfWeek.TUESDAY) seconds = 1200 + day % 5;
            seen.add(new UsualDuration.Seen(at, seconds));
        }
        var usual = UsualDuration.of(seen, Jobs.UTC, now, null);
        assertThat(usual.on(java.time.LocalDate.parse("2026-06-30")).median()).isBetween(3600.0, 3603.0);
        assertThat(usual.on(java.time.LocalDate.parse("2026-06-16")).because()).isEqualTo("on Tuesdays");
        assertThat(usual.on(java.time.LocalDate.parse("2026-06-16")).median()).isBetween(1200.0, 1205.0);
        assertThat(usual.on(java.time.LocalDate.parse("2026-06-17")).median()).isBetween(600.0, 607.0);
        assertThat(usual.on(java.time.LocalDate.parse("2026-06-17")).because()).isEmpty();

        var changed = Arrays.asList(new UsualDuration.Seen[90]);
        for (int day = 0; day < 90; day++)
            changed.set(day, new UsualDuration.Seen(now.minus(Duration.ofDays(day + 1)), day < 30 ? 900 : 600));
        // Thirty new nights weigh more than sixty old ones.
        assertThat(UsualDuration.of(changed, Jobs.UTC, now, null)
                        .on(java.time.LocalDate.parse("2026-06-17"))
                        .median())
                .isEqualTo(900);
        assertThat(UsualDuration.of(List.of(), Jobs.UTC, now, Duration.ofHours(1))
                        .on(java.time.LocalDate.parse("2026-06-17"))
                        .known())
                .isFalse();
    }
}
