package app.morvet.views.nights;

import app.morvet.core.batch.RunTrouble;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.Runs;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What Batch adds elsewhere: the job of a case with the tail of what it wrote, and deadlines at risk on the now line. */
@Component
class JobPart implements DossierPart, NowSource {
    private static final int RUNS = 4;
    private static final int LINES = 12;

    /** @param tail the last lines of the last run that wrote any */
    record Shown(String key, String name, String schedule, List<RunViews.Row> runs, String tail, long tailOf) {}

    private final JobBook jobs;
    private final Nights nights;
    private final Runs runs;
    private final RunViews views;
    private final Times times;

    JobPart(JobBook jobs, Nights nights, Runs runs, RunViews views, Times times) {
        this.jobs = jobs;
        this.nights = nights;
        this.runs = runs;
        this.views = views;
        this.times = times;
    }

    @Override
    public String liveTopic() {
        return "batch";
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        return jobs.byComponent(shown.component()).map(job -> {
            var latest = runs.latest(shown.component(), times.now().plusSeconds(600), RUNS);
            var written = latest.stream().filter(one -> !one.run().running()).findFirst();
            var output = written.flatMap(runs::output).map(Runs.Output::text).orElse("");
            var lines = output.lines().toList();
            return new Part(
                    "night-parts :: dossier",
                    new Shown(
                            job.key(),
                            job.name(),
                            jobs.scheduleWords(job.job()),
                            views.rows(job, latest),
                            String.join("\n", lines.subList(Math.max(0, lines.size() - LINES), lines.size())),
                            written.map(one -> one.run().id()).orElse(0L)));
        });
    }

    @Override
    public List<NowItem> now() {
        long atRisk = nights.latest().stream()
                .flatMap(standing -> standing.findings().stream())
                .filter(one -> one.trouble() == RunTrouble.DEADLINE_AT_RISK)
                .count();
        if (atRisk == 0) return List.of();
        return List.of(
                new NowItem("warning", atRisk == 1 ? "1 deadline at risk" : atRisk + " deadlines at risk", "/batch"));
    }
}
