package app.morvet.views.nights;

import app.morvet.core.batch.Outcome;
import app.morvet.core.batch.Run;
import app.morvet.core.guard.Spans;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.batch.StoredJob;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Runs in the shape that pages want them. */
@Component
class RunViews {
    /**
     * @param lasted  how long it took or has taken
     * @param exit    the exit code with its meaning; empty where there is none
     * @param trigger how it came to start; empty where by its schedule
     */
    record Row(
            long id,
            String mark,
            String outcome,
            String started,
            String ended,
            String lasted,
            String records,
            String exit,
            String trigger,
            String node,
            String reference) {}

    private final Runs runs;
    private final Times times;

    RunViews(Runs runs, Times times) {
        this.runs = runs;
        this.times = times;
    }

    /** Of one job, with what became of the starts that they are of. */
    List<Row> rows(StoredJob job, List<Runs.Told> some) {
        var outcomes = runs.outcomes(job, some);
        return some.stream()
                .map(one -> row(
                        job, one, Objects.requireNonNull(outcomes.get(one.run().id()))))
                .toList();
    }

    private Row row(StoredJob job, Runs.Told told, Outcome outcome) {
        var run = told.run();
        boolean warned = run.end() == Run.End.WARNED;
        return new Row(
                run.id(),
                warned && Marks.of(outcome).equals("steady") ? "notice" : Marks.of(outcome),
                outcome.words() + (warned ? ", with a warning" : ""),
                run.started() == null ? "not told" : times.of(run.started()),
                times.of(run.ended()),
                run.started() == null ? "" : lasted(run, times.now()),
                run.records() == null ? "" : "%,d".formatted(run.records()),
                exit(job, run),
                trigger(run),
                told.node(),
                told.reference());
    }

    private static String lasted(Run run, Instant now) {
        var lasted = run.lasted(now);
        return Spans.words(
                lasted.toHours() >= 1
                        ? Duration.ofMinutes(lasted.toMinutes())
                        : lasted.truncatedTo(java.time.temporal.ChronoUnit.SECONDS));
    }

    static String exit(StoredJob job, Run run) {
        var code = run.exitCode();
        if (code == null) return "";
        var words = job.job().exitCodes().of(code).words();
        return words.isEmpty() ? "" + code : code + " (" + words + ")";
    }

    private static String trigger(Run run) {
        return switch (run.trigger()) {
            case SCHEDULE -> "";
            case RETRY -> "tried again";
            case BY_HAND -> "by hand";
        };
    }
}
