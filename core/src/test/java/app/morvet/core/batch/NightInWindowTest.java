package app.morvet.core.batch;

import static app.morvet.core.batch.Jobs.at;
import static app.morvet.core.batch.Jobs.job;
import static app.morvet.core.batch.Jobs.ran;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What windows do to a night. */
class NightInWindowTest {
    private static final JobGraph CHAIN = JobGraph.of(List.of(
            job("rate", "0 1 * * *"),
            job("settle", "", "rate"),
            Jobs.due("bank", "", "03:30", "settle"),
            job("keys", "0 4 * * *")));

    private static Plan once(String from, int minutes) {
        return Plan.once(at(from), at(from).plus(Duration.ofMinutes(minutes)), Jobs.UTC);
    }

    /** A night in which all jobs of some keys are in a window. */
    private static Night night(String now, Plan window, Set<String> over, Jobs.Known known) {
        var spans = window.occurrences(at("00:00"), at("23:00"));
        return Night.of(CHAIN, at("00:00"), at("23:00"), at(now), new Night.Known() {
            @Override
            public List<Run> runs(String job) {
                return known.runs(job);
            }

            @Override
            public Spread usual(Job job, Instant at) {
                return known.usual(job, at);
            }

            @Override
            public List<Night.Arrival> files() {
                return List.of();
            }

            @Override
            public boolean inWindow(Job job, Instant at) {
                return over.contains(job.key())
                        && spans.stream().anyMatch(one -> one.span().has(at));
            }
        });
    }

    private static List<RunWatch.Finding> findings(Night night) {
        var forecast = Forecast.of(night, List.of(), one -> -1, List.of(), 500, 1);
        return new RunWatch(forecast, Jobs.UTC, key -> key).findings(Set.of(), one -> 60);
    }

    private static Outcome outcome(Night night, String job) {
        return night.of(job).getFirst().outcome();
    }

    @Test
    void aStartInAWindowIsSkippedWithAllThatWaitsForItAndNothingIsFoundWrong() {
        var night = night("05:00", once("00:45", 30), Set.of("rate"), new Jobs.Known());
        assertThat(outcome(night, "rate")).isEqualTo(Outcome.SKIPPED);
        assertThat(outcome(night, "settle")).isEqualTo(Outcome.SKIPPED);
        assertThat(outcome(night, "bank")).isEqualTo(Outcome.SKIPPED);
        assertThat(findings(night)).extracting(RunWatch.Finding::job).containsExactly("keys");
        assertThat(Forecast.of(night, List.of(), one -> -1, List.of(), 500, 1).ahead())
                .extracting(one -> one.occurrence().job().key())
                .containsExactly("keys");
    }

    @Test
    void whatRunsInAWindowAllTheSameIsJudgedAsEver() {
        var window = once("00:45", 30);
        var failed = new Jobs.Known().with("rate", ran("01:00", "01:10", Run.End.FAILED));
        assertThat(findings(night("02:00", window, Set.of("rate"), failed)))
                .extracting(RunWatch.Finding::trouble)
                .contains(RunTrouble.FAILED);
        // It begins once the window is over, which is not late.
        var after = new Jobs.Known().with("rate", ran("01:20", "01:50", Run.End.FINE));
        var night = night("02:00", window, Set.of("rate"), after);
        assertThat(outcome(night, "rate")).isEqualTo(Outcome.ON_TIME);
        assertThat(outcome(night, "settle")).isEqualTo(Outcome.DUE);
        assertThat(night.strays()).isEmpty();
    }

    @Test
    void whatFallsInsideIsCountedByItsOwnTimetable() {
        var jobs = List.of(job("often", "*/20 * * * *"), job("rate", "0 1 * * *"), job("settle", "", "rate"));
        assertThat(MaintenanceWindow.inside(new Plan.Span(at("01:30"), at("02:30")), jobs))
                .containsExactly(new MaintenanceWindow.Inside("often", 3));
    }
}
