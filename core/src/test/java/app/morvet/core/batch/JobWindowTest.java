package app.morvet.core.batch;

import static app.morvet.core.batch.Jobs.at;
import static app.morvet.core.batch.Jobs.job;
import static app.morvet.core.batch.Jobs.ran;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** When windows are, and what they do to a night. */
class JobWindowTest {
    private static final JobGraph CHAIN = JobGraph.of(List.of(
            job("rate", "0 1 * * *"),
            job("settle", "", "rate"),
            Jobs.due("bank", "", "03:30", "settle"),
            job("keys", "0 4 * * *")));

    private static JobWindow once(String from, int minutes) {
        return new JobWindow("w", Scope.ALL, at(from), null, Duration.ofMinutes(minutes));
    }

    private static JobWindow again(String cron, ZoneId zone, int minutes) {
        var timetable = new Timetable(
                List.of(new Schedule.Cron(CronExpression.of(cron), Schedule.OnHoliday.STARTS)),
                zone,
                HolidayCalendar.NONE,
                ClockChange.ONCE);
        return new JobWindow("w", Scope.ALL, null, timetable, Duration.ofMinutes(minutes));
    }

    /** A night in which all jobs of some keys are in a window. */
    private static Night night(String now, JobWindow window, Set<String> over, Jobs.Known known) {
        var spans = window.spans(at("00:00"), at("23:00"));
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
                return over.contains(job.key()) && spans.stream().anyMatch(span -> span.has(at));
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
    void aWindowThatReachesIntoASpanIsOneOfIt() {
        assertThat(once("01:00", 60).spans(at("01:30"), at("02:30")))
                .containsExactly(new JobWindow.Span(at("01:00"), at("02:00")));
        assertThat(once("01:00", 60).spans(at("02:00"), at("03:00"))).isEmpty();
        assertThat(once("03:00", 60).spans(at("02:00"), at("03:00"))).isEmpty();
        assertThat(new JobWindow.Span(at("01:00"), at("02:00")).has(at("02:00")))
                .isFalse();
    }

    @Test
    void whatRecursIsJoinedWhereItTouchesAndLastsElapsedTimeOverAChangeOfTheClock() {
        assertThat(again("0 * * * *", Jobs.UTC, 60).spans(at("01:30"), at("04:00")))
                .containsExactly(new JobWindow.Span(at("01:00"), at("04:00")));
        assertThat(again("0 1,3 * * *", Jobs.UTC, 30).spans(at("00:00"), at("05:00")))
                .hasSize(2);
        // On 29 March the clock of Helsinki goes from 03:00 to 04:00: two hours from 02:30 on end at 05:30.
        var spring = again("30 2 29 3 *", ZoneId.of("Europe/Helsinki"), 120);
        assertThat(spring.spans(Instant.parse("2026-03-28T00:00:00Z"), Instant.parse("2026-03-30T00:00:00Z")))
                .containsExactly(new JobWindow.Span(
                        Instant.parse("2026-03-29T00:30:00Z"), Instant.parse("2026-03-29T02:30:00Z")));
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
        assertThat(JobWindow.inside(new JobWindow.Span(at("01:30"), at("02:30")), jobs))
                .containsExactly(new JobWindow.Inside("often", 3));
    }

    @Test
    void whatCannotBeAWindowIsRefused() {
        assertThatThrownBy(() -> once("01:00", 0)).hasMessage("a window must end after it has begun");
        assertThatThrownBy(() -> once("01:00", 60 * 24 * 15)).hasMessage("a window is at most 14 days long");
        assertThatThrownBy(() -> new JobWindow("w", Scope.ALL, null, null, Duration.ofHours(1)))
                .hasMessage("a window is either once or begins again and again");
        assertThatThrownBy(() -> new JobWindow(" ", Scope.ALL, at("01:00"), null, Duration.ofHours(1)))
                .hasMessage("a window has a name of at most 100 letters");
    }
}
