package app.morvet.sources.batch;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.batch.Job;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.ground.estate.Estate;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A past that is gone through says at each step what was so then, whatever is played ahead meanwhile. */
class NightsOfThePastTest extends MorvetTest {
    private static final String KEY = "job-of-the-past";
    private static final Duration STEP = Duration.ofMinutes(15);
    private static final Duration LATE = Duration.ofMinutes(55);

    /** When the job was to start: it started 55 minutes later. */
    private final Instant due = Instant.now().truncatedTo(ChronoUnit.MINUTES).minus(Duration.ofHours(30));

    @Autowired
    private JobBook jobs;

    @Autowired
    private Nights nights;

    private void aJobThatStartedLate() throws Exception {
        var owner = subject();
        estate.add(
                KEY,
                "Job of the past",
                Estate.JOB,
                estate.applicationOf(estate.component(owner.id())).orElseThrow().id());
        var there = due.atZone(ZoneOffset.UTC);
        jobs.set(
                KEY,
                JobSpec.of(
                        ZoneId.of("UTC"),
                        List.of(JobSpec.Start.cron(there.getMinute() + " " + there.getHour() + " * * *"))),
                "");
        // So it has been known for longer than its past.
        for (int day = 3; day > 0; day--) ran("d" + day, due.minus(Duration.ofDays(day)));
        ran("late", due.plus(LATE));
        jdbc.sql("update component set first_seen = :at where key = :key")
                .param("at", java.sql.Timestamp.from(due.minus(Duration.ofDays(4))))
                .param("key", KEY)
                .update();
    }

    private void ran(String run, Instant at) throws Exception {
        var told = List.of(
                ofRun("started", KEY, run, at, Map.of()),
                ofRun("finished", KEY, run, at.plusSeconds(300), Map.of("exitCode", 0)));
        assertThat(send(told).statusCode()).isEqualTo(202);
    }

    private static List<RunTrouble> of(Nights.View view) {
        return view.findings().stream()
                .filter(one -> one.job().equals(KEY))
                .map(RunWatch.Finding::trouble)
                .toList();
    }

    @Test
    void eachStepSaysWhatWasSoThen() throws Exception {
        aJobThatStartedLate();
        var from = due.minusSeconds(500);
        var to = from.plus(STEP.multipliedBy(6));
        var past = nights.past(from, to, STEP);
        for (var at = from; !at.isAfter(to); at = at.plus(STEP)) {
            var gone = past.at(at, Set.of());
            var alone = nights.past(from, to, STEP).at(at, Set.of());
            assertThat(gone.madeAt()).isEqualTo(at);
            assertThat(gone.night().now()).isEqualTo(at);
            assertThat(of(gone)).as("at " + at).isEqualTo(of(alone));
            boolean waits = at.isAfter(due.plus(Job.USUAL_LATEST)) && at.isBefore(due.plus(LATE));
            assertThat(of(gone).contains(RunTrouble.DID_NOT_START))
                    .as("at " + at)
                    .isEqualTo(waits);
        }
    }

    @Test
    void whoLeavesTheStepIsToldOfTheInstantAskedFor() throws Exception {
        var from = due.minus(STEP);
        var past = nights.past(from, due.plus(Duration.ofDays(1)), STEP);
        past.at(from, Set.of());
        past.at(due, Set.of());
        var leapt = due.plus(Duration.ofHours(12));
        assertThat(past.at(leapt, Set.of()).night().now()).isEqualTo(leapt);
        assertThat(past.at(due.plus(STEP), Set.of()).night().now()).isEqualTo(due.plus(STEP));
    }
}
