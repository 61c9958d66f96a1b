package app.morvet.sources.batch;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** How long jobs usually last is learned on from what was learned, and is what it would be if all were read anew. */
class UsualDurationsTest extends MorvetTest {
    @Autowired
    RunStore runs;

    @Autowired
    Notices notices;

    @Autowired
    JobBook jobs;

    private UsualDurations fresh(Instant now) {
        return new UsualDurations(runs, notices, Clock.fixed(now, ZoneOffset.UTC));
    }

    private void ran(String job, Instant start, int minutes) throws Exception {
        var end = start.plus(Duration.ofMinutes(minutes));
        var run = "r" + start.getEpochSecond();
        assertThat(send(List.of(
                                ofRun("started", job, run, start, Map.of()),
                                ofRun(
                                        "finished",
                                        job,
                                        run,
                                        end,
                                        Map.of("result", "fine", "started", start.toString()))))
                        .statusCode())
                .isEqualTo(202);
    }

    @Test
    void whatIsLearnedOnIsWhatIsLearnedAnew() throws Exception {
        var job = "usual-" + java.util.UUID.randomUUID().toString().substring(0, 8);
        var now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        for (int day = 85; day >= 1; day -= 3) ran(job, now.minus(Duration.ofDays(day)), 10 + day % 7);
        var stored = jobs.byKey(job).orElseThrow();
        var going = fresh(now);
        for (int minutes = 0; minutes <= 180; minutes += 30) {
            var at = now.plus(Duration.ofMinutes(minutes));
            assertThat(going.of(stored, at, at))
                    .as("after %d min", minutes)
                    .isEqualTo(fresh(at).of(stored, at, at));
            // One more run has ended by the time it is looked at again.
            ran(job, now.minus(Duration.ofMinutes(170 - minutes / 2)), 20);
        }
    }
}
