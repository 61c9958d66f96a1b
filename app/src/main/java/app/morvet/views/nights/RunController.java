package app.morvet.views.nights;

import app.morvet.ground.page.Files;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.batch.StoredJob;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.orders.Orders;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** One run: how it went, and what it wrote. */
@Controller
class RunController {
    private static final int MOST_LINES = 2000;

    /** @param css how it stands out */
    record Line(int number, String text, String css) {}

    private final JobBook jobs;
    private final Runs runs;
    private final RunViews views;
    private final Orders orders;
    private final Nights nights;
    private final CaseBook cases;
    private final FixNotes fixNotes;
    private final Times times;

    RunController(
            JobBook jobs,
            Runs runs,
            RunViews views,
            Orders orders,
            Nights nights,
            CaseBook cases,
            FixNotes fixNotes,
            Times times) {
        this.jobs = jobs;
        this.runs = runs;
        this.views = views;
        this.orders = orders;
        this.nights = nights;
        this.cases = cases;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    @GetMapping("/batch/runs/{id}")
    String one(@PathVariable long id, @RequestParam(defaultValue = "") String q, Model model) {
        var told = find(id);
        var job = job(told);
        var run = told.run();
        var output = runs.output(told).orElse(null);
        model.addAttribute("job", job);
        model.addAttribute("run", views.rows(job, List.of(told)).getFirst());
        model.addAttribute("reason", told.reason());
        model.addAttribute("running", run.running());
        model.addAttribute(
                "progress", run.running() && run.percent() != null ? "%.0f %%".formatted(run.percent()) : "");
        model.addAttribute("progressAt", run.running() ? times.of(run.percentAt()) : "");
        model.addAttribute("meant", times.of(run.meant()));
        var usual = nights.usual(job, run.at());
        model.addAttribute(
                "usual",
                usual.known()
                        ? app.morvet.core.guard.Spans.words(
                                java.time.Duration.ofMinutes(Math.round(usual.median() / 60)))
                        : "");
        model.addAttribute("output", output);
        model.addAttribute("typed", q);
        model.addAttribute("lines", output == null ? List.of() : lines(output.text(), q));
        model.addAttribute("fixNote", job.fixNote().isBlank() ? "" : fixNotes.html(job.fixNote()));
        model.addAttribute("caseId", cases.openByComponent().getOrDefault(told.component(), 0L));
        model.addAttribute("takesOrders", orders.takenFor(job));
        model.addAttribute("orders", orders.of(job));
        return "run";
    }

    /** With a search, the lines that have it; else the last ones. */
    private static List<Line> lines(String text, String search) {
        var words = search.strip().toLowerCase(Locale.ROOT);
        var lines = new ArrayList<Line>();
        int number = 0;
        for (var line : text.lines().toList()) {
            number++;
            if (words.isEmpty() || line.toLowerCase(Locale.ROOT).contains(words))
                lines.add(new Line(number, line, css(line)));
        }
        return lines.size() <= MOST_LINES ? lines : lines.subList(lines.size() - MOST_LINES, lines.size());
    }

    private static String css(String line) {
        var upper = line.toUpperCase(Locale.ROOT);
        if (upper.contains("ERROR") || upper.contains("FATAL")) return "error";
        return upper.contains("WARN") ? "warn" : "";
    }

    @GetMapping("/batch/runs/{id}/output.txt")
    ResponseEntity<byte[]> output(@PathVariable long id) {
        var told = find(id);
        var text = runs.output(told)
                .map(Runs.Output::text)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "This run has no output."));
        var name = (told.reference() + ".txt").replaceAll("[^A-Za-z0-9._-]", "_");
        return Files.out(name, "text/plain", text);
    }

    private Runs.Told find(long id) {
        return runs.byId(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no run " + id + "."));
    }

    private StoredJob job(Runs.Told told) {
        return jobs.byComponent(told.component())
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "The job of this run is not known."));
    }
}
