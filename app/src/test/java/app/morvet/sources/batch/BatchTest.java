package app.morvet.sources.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.core.alert.Severity;
import app.morvet.core.batch.Outcome;
import app.morvet.core.batch.Run;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.cases.SettleReason;
import app.morvet.core.estate.Scope;
import app.morvet.ground.estate.Estate;
import app.morvet.rules.runguards.RunGuards;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What schedulers tell, what becomes of it, and the cases that come of the night. */
class BatchTest extends MorvetTest {
    private static final AtomicInteger COUNT = new AtomicInteger();

    @Autowired
    private JobBook jobs;

    @Autowired
    private Runs runs;

    @Autowired
    private RunGuards guardsOverRuns;

    @Autowired
    private Nights nights;

    @Autowired
    private CaseBook cases;

    /** A fresh job that is expected at the times of a cron expression, in UTC. */
    private StoredJob job(JobSpec spec) {
        var owner = subject();
        var key = "job-" + COUNT.incrementAndGet();
        estate.add(
                key,
                "Job " + key,
                Estate.JOB,
                estate.applicationOf(estate.component(owner.id())).orElseThrow().id());
        jobs.set(key, spec, "Look at **its output**.");
        return jobs.byKey(key).orElseThrow();
    }

    private static JobSpec dailyAt(Instant at) {
        var there = at.atZone(ZoneOffset.UTC);
        return JobSpec.of(
                ZoneId.of("UTC"), List.of(JobSpec.Start.cron(there.getMinute() + " " + there.getHour() + " * * *")));
    }

    private static Instant minutesAgo(int minutes) {
        return Instant.now().truncatedTo(ChronoUnit.MINUTES).minus(Duration.ofMinutes(minutes));
    }

    private Run only(StoredJob job) {
        var all = runs.latest(job.component().id(), Instant.now().plusSeconds(600), 10);
        assertThat(all).hasSize(1);
        return all.getFirst().run();
    }

    private void watch(StoredJob job, RunTrouble trouble) {
        guardsOverRuns.keep(
                new RunGuards.Stored(
                        0,
                        trouble + " of " + job.key(),
                        RunGuard.of(trouble, Scope.ofJob(job.key()), Severity.WARNING),
                        null,
                        "",
                        true,
                        0,
                        false),
                person("lead"));
    }

    private List<Map<String, Object>> casesOf(StoredJob job) {
        return jdbc.sql("select * from work_case where component_id = :id order by id")
                .param("id", job.component().id())
                .query()
                .listOfRows();
    }

    @Test
    void whatIsToldOfARunDoesNotDependOnTheOrderInWhichItComes() throws Exception {
        var at = minutesAgo(20);
        for (int seed = 0; seed < 6; seed++) {
            var job = job(dailyAt(at));
            var told = new ArrayList<>(List.of(
                    ofRun("started", job.key(), "r1", at, Map.of("node", "batch-1")),
                    ofRun("progress", job.key(), "r1", at.plusSeconds(60), Map.of("percent", 40, "records", 400)),
                    ofRun("progress", job.key(), "r1", at.plusSeconds(120), Map.of("percent", 80)),
                    ofRun(
                            "finished",
                            job.key(),
                            "r1",
                            at.plusSeconds(150),
                            Map.of("exitCode", 0, "records", 1000, "output", "done"))));
            told.addAll(told.subList(0, 2));
            Collections.shuffle(told, new Random(seed));
            for (var one : told) assertThat(send(List.of(one)).statusCode()).isEqualTo(202);
            var run = only(job);
            assertThat(run.started()).isEqualTo(at);
            assertThat(run.ended()).isEqualTo(at.plusSeconds(150));
            assertThat(run.end()).isEqualTo(Run.End.FINE);
            assertThat(run.records()).isEqualTo(1000);
            assertThat(run.percent()).isEqualTo(80.0);
            assertThat(runs.output(runs.byId(run.id()).orElseThrow())
                            .orElseThrow()
                            .text())
                    .isEqualTo("done");
        }
    }

    @Test
    void anEndWithoutAStartAndAStartWithoutAnEndAreWhatTheyAre() throws Exception {
        var at = minutesAgo(15);
        var ended = job(dailyAt(at));
        var begun = job(dailyAt(at));
        send(List.of(
                ofRun("finished", ended.key(), "a", at.plusSeconds(60), Map.of("exitCode", 3)),
                ofRun("started", begun.key(), "b", at.plusSeconds(5), Map.of())));
        assertThat(only(ended).started()).isNull();
        assertThat(only(ended).end()).isEqualTo(Run.End.FAILED);
        assertThat(only(begun).running()).isTrue();
        // The scheduler may say afterwards when it had started.
        send(List.of(ofRun(
                "finished", ended.key(), "a", at.plusSeconds(60), Map.of("exitCode", 3, "started", at.toString()))));
        assertThat(only(ended).started()).isEqualTo(at);
    }

    @Test
    void badEventsAreRefusedOneByOneWithTheirReason() throws Exception {
        var job = job(dailyAt(minutesAgo(5)));
        var answer = tree(send(List.of(
                ofRun("progress", job.key(), "r", minutesAgo(1), Map.of("percent", 140)),
                ofRun("started", job.key(), "r", minutesAgo(1), Map.of("trigger", "moon")),
                ofRun("finished", job.key(), "", minutesAgo(1), Map.of("exitCode", 0)),
                ofRun("finished", job.key(), "r", minutesAgo(1), Map.of("exitCode", "zero")),
                ofRun("started", job.key(), "r", minutesAgo(1), Map.of()))));
        assertThat(answer.path("accepted").asInt()).isEqualTo(1);
        assertThat(answer.path("rejected").toString())
                .contains("data.percent must be a number from 0 to 100")
                .contains("data.trigger must be one of manual, retry, schedule")
                .contains("run is missing")
                .contains("data.exitCode must be a whole number");
    }

    @Test
    void exitCodesMeanWhatIsAgreed() throws Exception {
        var at = minutesAgo(12);
        var spec = dailyAt(at);
        var job = job(new JobSpec(
                "",
                spec.schedules(),
                "UTC",
                "",
                spec.clockChange(),
                List.of(),
                List.of(),
                "",
                10,
                0,
                "",
                0,
                "4 = warning: nothing to do\n9 = fine",
                0,
                0,
                ""));
        send(List.of(
                ofRun("finished", job.key(), "r", at.plusSeconds(9), Map.of("exitCode", 4, "started", at.toString()))));
        assertThat(only(job).end()).isEqualTo(Run.End.WARNED);
    }

    @Test
    void aJobThatDoesNotStartIsOneCaseAtItsLatestStartAndOverWhenItRuns() throws Exception {
        var at = minutesAgo(11);
        var job = job(dailyAt(at));
        watch(job, RunTrouble.DID_NOT_START);
        eventually(() -> assertThat(casesOf(job)).hasSize(1));
        assertThat(casesOf(job).getFirst().get("headline").toString()).contains("did not start by");
        send(List.of(ofRun("started", job.key(), "late", Instant.now().minusSeconds(2), Map.of())));
        eventually(() -> assertThat(casesOf(job).getFirst().get("over_since")).isNotNull());
        assertThat(casesOf(job)).hasSize(1);
        eventually(() -> assertThat(runs.starts(job.component().id(), at, at.plusSeconds(1)))
                .singleElement()
                .satisfies(start -> assertThat(start.outcome()).isEqualTo(Outcome.RUNNING)));
    }

    @Test
    void whatFailsAgainAfterItWasSettledOpensItsCaseAgain() throws Exception {
        var at = minutesAgo(30);
        var again = minutesAgo(5);
        var job = job(JobSpec.of(
                ZoneId.of("UTC"),
                List.of(
                        dailyAt(at).schedules().getFirst(),
                        dailyAt(again).schedules().getFirst())));
        watch(job, RunTrouble.FAILED);
        send(List.of(
                ofRun("finished", job.key(), "x", at.plusSeconds(9), Map.of("exitCode", 1, "started", at.toString()))));
        eventually(() -> assertThat(casesOf(job)).hasSize(1));
        var one = cases.find((long) casesOf(job).getFirst().get("id")).orElseThrow();
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.PASSED, "", Instant.now());
        // So quick that no round saw it run.
        send(List.of(ofRun(
                "finished", job.key(), "y", again.plusSeconds(9), Map.of("exitCode", 1, "started", again.toString()))));
        eventually(
                () -> assertThat(cases.find(one.id()).orElseThrow().settled()).isFalse());
        assertThat(casesOf(job)).hasSize(1);
    }

    @Test
    void aFailureNamesWhatItHoldsUpAndThatMakesNoCaseOfItsOwn() throws Exception {
        var at = minutesAgo(40);
        var first = job(dailyAt(at));
        var second = job(JobSpec.unknown(ZoneId.of("UTC")).withWaits(first.key()));
        for (var trouble : List.of(RunTrouble.FAILED, RunTrouble.DID_NOT_START)) {
            watch(first, trouble);
            watch(second, trouble);
        }
        send(List.of(
                ofRun("started", first.key(), "x", at, Map.of()),
                ofRun(
                        "finished",
                        first.key(),
                        "x",
                        at.plusSeconds(90),
                        Map.of("exitCode", 12, "output", "ERROR rate table missing"))));
        // A round may have come before the events, and have found that the job did not start.
        eventually(() -> assertThat(casesOf(first)).singleElement().satisfies(one -> assertThat(
                        one.get("headline").toString())
                .contains("failed with exit code 12")
                .contains("held up: " + second.name())));
        assertThat(casesOf(second)).isEmpty();
        var page = loggedIn("analyst").get("/cases/" + casesOf(first).getFirst().get("id"));
        assertThat(page.body()).contains("Look at <strong>its output</strong>");
    }

    @Test
    void whatASlowJobDoesToADeadlineIsPartOfItsOwnCase() throws Exception {
        var at = minutesAgo(50);
        var slow = job(dailyAt(at));
        var done = Instant.now()
                .plus(Duration.ofMinutes(25))
                .atZone(ZoneOffset.UTC)
                .toLocalTime()
                .truncatedTo(ChronoUnit.MINUTES);
        var usual = JobSpec.unknown(ZoneId.of("UTC"));
        var due = job(new JobSpec(
                "",
                List.of(),
                "UTC",
                "",
                usual.clockChange(),
                List.of(slow.key()),
                List.of(),
                "",
                10,
                0,
                done.toString(),
                0,
                "",
                0,
                0,
                ""));
        // Both usually take twenty minutes.
        var past = new ArrayList<Map<String, Object>>();
        for (int day = 2; day < 12; day++) {
            var start = at.minus(Duration.ofDays(day));
            for (var job : List.of(slow, due))
                past.add(ofRun(
                        "finished",
                        job.key(),
                        "d" + day,
                        start.plusSeconds(1200 + day),
                        Map.of("exitCode", 0, "started", start.toString())));
        }
        send(past);
        jobs.changed();
        send(List.of(
                ofRun("started", slow.key(), "now", at, Map.of()),
                ofRun("progress", slow.key(), "now", Instant.now().minusSeconds(1), Map.of("percent", 45))));
        watch(due, RunTrouble.DEADLINE_AT_RISK);
        eventually(() -> assertThat(casesOf(slow)).hasSize(1));
        assertThat(casesOf(due)).isEmpty();
        assertThat(casesOf(slow).getFirst().get("headline").toString())
                .startsWith(due.name() + " likely")
                .contains("deadline")
                .contains(slow.name());
    }

    @Test
    void aRunOfAnUnknownJobRegistersItAndProposesItsSchedule() throws Exception {
        setUpOnce();
        var key = "stranger-" + COUNT.incrementAndGet();
        var at = minutesAgo(60);
        var told = new ArrayList<Map<String, Object>>();
        for (int day = 0; day < 6; day++) {
            // The same time of day there, also where the clock was changed in between.
            var start = at.atZone(ZoneId.of("Europe/Helsinki")).minusDays(day).toInstant();
            told.add(ofRun(
                    "finished",
                    key,
                    "r" + day,
                    start.plusSeconds(60),
                    Map.of("exitCode", 0, "started", start.toString())));
        }
        assertThat(send(told).statusCode()).isEqualTo(202);
        var job = jobs.byKey(key).orElseThrow();
        assertThat(job.agreed()).isFalse();
        var local = at.atZone(ZoneId.of("Europe/Helsinki")).toLocalTime();
        var page = loggedIn("lead").get("/batch/jobs/" + key).body();
        assertThat(page).contains("Its runs look like:").contains("every day at " + local);
        // Nobody has agreed on anything, so nothing is missing.
        assertThat(nights.now().findings()).noneMatch(one -> one.job().equals(key));
    }

    @Test
    void whatWasAgreedJustNowIsNotMissedYesterday() {
        var at = minutesAgo(300);
        setUpOnce();
        var key = "fresh-" + COUNT.incrementAndGet();
        jobs.agree(List.of(new JobBook.Agreement(key, "Fresh", null, dailyAt(at), "", 0)), person("lead"));
        assertThat(nights.make(Instant.now(), java.util.Set.of()).night().of(key))
                .allSatisfy(one -> assertThat(one.cycle()).isAfter(Instant.now().minusSeconds(5)));
    }

    @Test
    void jobsThatWouldWaitForEachOtherAreRefusedWithTheCycleAndNothingIsKept() {
        var first = job(dailyAt(minutesAgo(5)));
        var second = job(JobSpec.unknown(ZoneId.of("UTC")).withWaits(first.key()));
        assertThatThrownBy(() -> jobs.agree(
                        List.of(new JobBook.Agreement(
                                first.key(),
                                first.name(),
                                null,
                                first.spec().withWaits(second.key()),
                                "",
                                first.version())),
                        person("lead")))
                .hasMessageContaining("these jobs wait for each other")
                .hasMessageContaining(second.key());
        assertThat(jobs.byKey(first.key()).orElseThrow().job().waits()).isEmpty();
    }

    @Test
    void whatIsTakenBackIsExpectedNoMoreUnlessOthersWaitForIt() {
        var first = job(dailyAt(minutesAgo(30)));
        var second = job(JobSpec.unknown(ZoneId.of("UTC")).withWaits(first.key()));
        assertThatThrownBy(() -> jobs.forget(first.key(), first.version(), person("lead")))
                .hasMessage("these jobs wait for it: " + second.name());
        jobs.forget(second.key(), second.version(), person("lead"));
        jobs.forget(first.key(), first.version(), person("lead"));
        assertThat(jobs.byKey(first.key()).orElseThrow().agreed()).isFalse();
        assertThat(nights.make(Instant.now(), java.util.Set.of()).night().of(first.key()))
                .isEmpty();
    }

    @Test
    void twoWhoChangeAJobAtOnceDoNotOverwriteEachOther() {
        var job = job(dailyAt(minutesAgo(5)));
        var mine =
                new JobBook.Agreement(job.key(), job.name(), null, job.spec().withCommand("mine"), "", job.version());
        jobs.agree(List.of(mine), person("lead"));
        assertThatThrownBy(() -> jobs.agree(List.of(mine), person("admin"))).isInstanceOf(JobBook.Overtaken.class);
        assertThat(jobs.versions(job.component().id()).getFirst().version()).isEqualTo(job.version() + 1);
    }
}
