package app.morvet.core.batch;

import static app.morvet.core.batch.Jobs.at;
import static app.morvet.core.batch.Jobs.job;
import static app.morvet.core.batch.Jobs.minutes;
import static app.morvet.core.batch.Jobs.ran;
import static app.morvet.core.batch.Jobs.run;
import static app.morvet.core.batch.Jobs.running;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a look at the night finds wrong, in the words in which people get it. */
class RunWatchTest {
    private static final JobGraph KEYS = JobGraph.of(List.of(job("keys", "0 4 * * *")));
    private static final JobGraph CHAIN = JobGraph.of(List.of(
            job("rate", "0 1 * * *"),
            job("settle", "", "rate"),
            job("ledger", "", "settle"),
            Jobs.due("bank", "", "03:30", "ledger"),
            job("load", "", "bank"),
            job("figures", "", "load")));

    private static List<RunWatch.Finding> findings(JobGraph graph, String now, Jobs.Known known) {
        return findings(graph, at(now), known);
    }

    private static List<RunWatch.Finding> findings(JobGraph graph, Instant now, Jobs.Known known) {
        var night = Night.of(graph, at("00:00"), at("00:00").plus(Duration.ofHours(60)), now, known);
        var forecast = Forecast.of(night, List.of(), one -> -1, List.of(), 2000, 1);
        return new RunWatch(forecast, Jobs.UTC, key -> key).findings(Set.of(), one -> 60);
    }

    private static String words(JobGraph graph, String now, Jobs.Known known) {
        var found = findings(graph, now, known);
        assertThat(found).hasSize(1);
        return found.getFirst().words();
    }

    private static String atRisk(String now, Jobs.Known known) {
        return findings(CHAIN, now, known).stream()
                .filter(one -> one.trouble() == RunTrouble.DEADLINE_AT_RISK)
                .findFirst()
                .orElseThrow()
                .words();
    }

    @Test
    void aFailureSaysItsCodeWithItsMeaningAndTheHowManiethItIs() {
        var failed = ran("04:01", "04:05", Run.End.FAILED);
        assertThat(words(KEYS, "05:00", new Jobs.Known().with("keys", failed)))
                .isEqualTo("keys failed with exit code 12 at 04:05");
        assertThat(words(KEYS, "05:00", new Jobs.Known().with("keys", failed, ran("04:10", "04:12", Run.End.FAILED))))
                .isEqualTo("keys failed with exit code 12 at 04:12, the 2nd time");
        var untold = run(at("04:01"), at("04:05"), Run.End.FAILED, null);
        assertThat(words(KEYS, "05:00", new Jobs.Known().with("keys", untold))).isEqualTo("keys failed at 04:05");
    }

    @Test
    void whatDidNotStartSaysByWhenAndWhatItHoldsUp() {
        assertThat(words(KEYS, "04:11", new Jobs.Known()))
                .isEqualTo("keys did not start by 04:10; it was expected at 04:00");
        assertThat(findings(CHAIN, "01:11", new Jobs.Known()).getFirst().words())
                .isEqualTo(
                        "rate did not start by 01:10; it was expected at 01:00; held up: settle, ledger, bank and 2 more");
        assertThat(findings(KEYS, at("04:00").plus(Duration.ofHours(20)), new Jobs.Known()))
                .singleElement()
                .satisfies(one -> assertThat(one.words())
                        .isEqualTo(
                                "keys did not start by 04:10 on 2026-03-18; it was expected at 04:00 on 2026-03-18"));
    }

    @Test
    void aRunThatIsTooLongIsRunningLongThenOutOfTimeThenLost() {
        var known = new Jobs.Known().with("keys", running("04:01"));
        assertThat(words(KEYS, "04:50", known)).isEqualTo("keys is running long: 49 min, usually 30 min");
        assertThat(words(KEYS, "07:02", known)).isEqualTo("keys has run 3 h 1 min and may run 3 h");
        assertThat(findings(KEYS, at("04:01").plus(Duration.ofHours(47)), known))
                .filteredOn(one -> one.trouble() == RunTrouble.OUT_OF_TIME)
                .allSatisfy(one -> assertThat(one.words()).contains("its end was never told"));
    }

    @Test
    void whatRanByHandIsExpectedByWhoeverStartedIt() {
        var fine = ran("04:01", "04:30", Run.End.FINE);
        var again = ran("05:00", "05:20", Run.End.FINE);
        assertThat(words(KEYS, "06:00", new Jobs.Known().with("keys", fine, again)))
                .isEqualTo("keys started at 05:00 and was not expected");
        var byHand =
                new Run(1234, at("05:00"), at("05:20"), Run.End.FINE, null, Run.Trigger.BY_HAND, 0, null, null, null);
        assertThat(findings(KEYS, "06:00", new Jobs.Known().with("keys", fine, byHand)))
                .isEmpty();
        // By the next day nobody asks any more.
        assertThat(findings(KEYS, at("23:30"), new Jobs.Known().with("keys", fine, again)))
                .isEmpty();
    }

    @Test
    void aDeadlineAtRiskNamesWhatStandsInItsWay() {
        var rate = ran("01:00", "01:30", Run.End.FINE);
        assertThat(atRisk(
                        "02:30",
                        new Jobs.Known().with("rate", rate).with("settle", ran("01:30", "02:20", Run.End.FAILED))))
                .matches(
                        "bank likely 0[34]:\\d\\d if settle is run again now, deadline 03:30 \\(0\u00a0% to make it\\): settle failed at 02:20");
        assertThat(atRisk(
                        "02:30",
                        new Jobs.Known().with("rate", rate).with("settle", ran("01:30", "02:20", Run.End.CANCELLED))))
                .endsWith(": settle was cancelled at 02:20");
        assertThat(atRisk("02:30", new Jobs.Known()))
                .contains("if rate is run again now")
                .endsWith(": rate did not start");
        assertThat(atRisk(
                        "02:40",
                        new Jobs.Known()
                                .with("rate", rate)
                                .with("settle", running("01:30"))
                                .lasting("settle", minutes(20, 30, 80))))
                .matches("bank likely .*: settle is running \\d+ min over");
    }

    @Test
    void aDeadlineThatIsPastIsMissed() {
        var known = new Jobs.Known()
                .with("rate", ran("01:00", "01:30", Run.End.FINE))
                .with("settle", ran("01:30", "02:00", Run.End.FINE))
                .with("ledger", ran("02:00", "03:20", Run.End.FINE))
                .with("bank", running("03:20"));
        assertThat(atRisk("03:31", known)).startsWith("bank has missed its deadline 03:30; likely 03:49");
    }

    @Test
    void aSlimChanceIsSaidAsSuch() {
        var known = new Jobs.Known();
        for (var key : List.of("rate", "settle", "ledger", "bank")) known.lasting(key, minutes(20, 30, 50));
        // Four of 20 to 50 minutes from one o'clock are hardly ever done in an hour and a half.
        var graph = JobGraph.of(List.of(
                job("rate", "0 1 * * *"),
                job("settle", "", "rate"),
                job("ledger", "", "settle"),
                Jobs.due("bank", "", "02:32", "ledger")));
        assertThat(findings(graph, "00:30", known)).singleElement().satisfies(one -> assertThat(one.words())
                .contains("(under 1\u00a0% to make it)"));
    }

    @Test
    void eachGuardCallsUnderItsOwnChanceAndGoesWellOverIt() {
        var known = new Jobs.Known().lasting("keys", minutes(20, 30, 40));
        var graph = JobGraph.of(List.of(Jobs.due("keys", "0 4 * * *", "04:28")));
        // Between 20 and 40 minutes: 04:28 is made in about 40 of 100.
        var finding = findings(graph, "03:00", known).getFirst();
        assertThat(finding.value()).isBetween(38.0, 44.0);
        var mild = new RunGuard(RunTrouble.DEADLINE_AT_RISK, Scope.ALL, Severity.WARNING, 60, 0);
        var strict = new RunGuard(RunTrouble.DEADLINE_AT_RISK, Scope.ALL, Severity.CRITICAL, 35, 0);
        assertThat(mild.calls(finding, false)).isTrue();
        assertThat(strict.calls(finding, false)).isFalse();
        assertThat(strict.calls(finding, true)).isTrue();
        assertThat(RunGuard.of(RunTrouble.FAILED, Scope.ALL, Severity.WARNING).calls(finding, true))
                .isFalse();
    }
}
