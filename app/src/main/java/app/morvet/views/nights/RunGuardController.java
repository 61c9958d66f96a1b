package app.morvet.views.nights;

import app.morvet.core.alert.Severity;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Named;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.FixNotes;
import app.morvet.rules.runguards.RunGuards;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Nights;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Guards over runs: listed, read, and edited as the sentence that they are. */
@Controller
class RunGuardController {
    record Row(long id, String name, String sentence, boolean active, int jobs, List<Found> now) {}

    /** What it says right now. */
    record Found(String mark, String words, String link) {}

    /** What is typed. */
    record Typed(
            long id,
            String name,
            String trouble,
            String severity,
            String below,
            String criticalBelow,
            String owner,
            String fixNote,
            boolean active,
            int version) {
        Typed {
            name = JobForm.given(name);
            trouble = JobForm.given(trouble);
            severity = JobForm.given(severity);
            below = JobForm.given(below);
            criticalBelow = JobForm.given(criticalBelow);
            owner = JobForm.given(owner);
            fixNote = JobForm.given(fixNote);
        }

        public boolean atRisk() {
            return trouble.equals(RunTrouble.DEADLINE_AT_RISK.name());
        }
    }

    private final RunGuards guards;
    private final Nights nights;
    private final JobBook jobs;
    private final Estate estate;
    private final Scopes scopes;
    private final FixNotes fixNotes;

    RunGuardController(RunGuards guards, Nights nights, JobBook jobs, Estate estate, Scopes scopes, FixNotes fixNotes) {
        this.guards = guards;
        this.nights = nights;
        this.jobs = jobs;
        this.estate = estate;
        this.scopes = scopes;
        this.fixNotes = fixNotes;
    }

    @GetMapping("/batch/guards")
    String list(Model model) {
        var standing = nights.now();
        model.addAttribute(
                "guards", guards.all().stream().map(one -> row(one, standing)).toList());
        return "run-guards";
    }

    private Row row(RunGuards.Stored guard, Nights.View standing) {
        return new Row(
                guard.id(),
                guard.name(),
                guards.sentence(guard.rule()),
                guard.active(),
                guards.over(guard.rule(), jobs.all()).size(),
                guard.active() ? now(guard.rule(), standing) : List.of());
    }

    private List<Found> now(RunGuard rule, Nights.View standing) {
        var over = guards.over(rule, List.copyOf(standing.jobs().values())).stream()
                .map(job -> job.key())
                .toList();
        return standing.findings().stream()
                .filter(one -> rule.calls(one, false) && over.contains(one.job()))
                .map(one -> new Found(RunWatch.severity(rule, one).word(), one.words(), "/batch/jobs/" + one.job()))
                .toList();
    }

    @GetMapping("/batch/guards/{id}")
    String one(@PathVariable long id, Model model) {
        var guard = find(id);
        model.addAttribute("guard", row(guard, nights.now()));
        model.addAttribute(
                "owner", guards.owner(id).map(Estate.Team::name).orElse("whoever owns the job's application"));
        model.addAttribute("fixNote", guard.fixNote().isBlank() ? "" : fixNotes.html(guard.fixNote()));
        model.addAttribute("version", guard.version());
        return "run-guard";
    }

    @GetMapping("/batch/guards/{id}/edit")
    String edit(@PathVariable String id, Model model) {
        if (id.equals("new"))
            return page(
                    new Typed(0, "", RunTrouble.FAILED.name(), Severity.WARNING.name(), "60", "15", "", "", true, 0),
                    Map.of(),
                    Map.of(),
                    model);
        if (!id.matches("\\d{1,18}")) throw missing(id);
        var guard = find(Long.parseLong(id));
        var rule = guard.rule();
        return page(
                new Typed(
                        guard.id(),
                        guard.name(),
                        rule.trouble().name(),
                        rule.severity().name(),
                        "" + rule.below(),
                        "" + rule.criticalBelow(),
                        guard.owner() == null ? "" : "" + guard.owner(),
                        guard.fixNote(),
                        guard.active(),
                        guard.version()),
                ScopeForm.fields(rule.scope()),
                Map.of(),
                model);
    }

    private String page(Typed typed, Map<String, String> sent, Map<String, String> errors, Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute("errors", errors);
        model.addAttribute("troubles", RunTrouble.values());
        model.addAttribute("severities", Severity.values());
        scopes.fill(ScopeForm.typed(sent::get), model);
        model.addAttribute("teams", estate.teams());
        means(typed, sent, model);
        return "run-guard-edit";
    }

    private void means(Typed typed, Map<String, String> sent, Model model) {
        try {
            var rule = rule(typed, ScopeForm.read(sent::get));
            var over = guards.over(rule, jobs.all());
            model.addAttribute("sentence", guards.sentence(rule));
            model.addAttribute(
                    "over", Named.of(over.stream().map(job -> job.name()).toList()));
            model.addAttribute("without", without(rule, over));
            model.addAttribute("now", now(rule, nights.now()));
        } catch (IllegalArgumentException bad) {
            model.addAttribute("cannot", Sentence.of(bad));
        }
    }

    /** What it can say nothing of, since nothing is agreed there. */
    private static String without(RunGuard rule, List<app.morvet.sources.batch.StoredJob> over) {
        long missing =
                switch (rule.trouble()) {
                    case DEADLINE_AT_RISK ->
                        over.stream()
                                .filter(job -> job.job().deadline() == null)
                                .count();
                    case OUT_OF_TIME ->
                        over.stream().filter(job -> job.job().longest() == null).count();
                    case DID_NOT_START, NOT_EXPECTED ->
                        over.stream().filter(job -> !job.job().planned()).count();
                    case SUSPICIOUS_SUCCESS ->
                        over.stream()
                                .filter(job -> job.job().leastRun().isZero()
                                        && job.job().leastRecords() == 0)
                                .count();
                    case FAILED, RUNNING_LONG -> 0;
                };
        if (missing == 0) return "";
        var what =
                switch (rule.trouble()) {
                    case DEADLINE_AT_RISK -> "no deadline";
                    case OUT_OF_TIME -> "no longest run";
                    case DID_NOT_START, NOT_EXPECTED -> "no schedule";
                    case SUSPICIOUS_SUCCESS -> "nothing under which a success is suspicious";
                    case FAILED, RUNNING_LONG -> "";
                };
        return "%d of them %s %s, and it says nothing of those."
                .formatted(missing, missing == 1 ? "has" : "have", what);
    }

    private static RunGuard rule(Typed typed, Scope scope) {
        return new RunGuard(
                JobForm.chosen(RunTrouble.class, typed.trouble(), "what it looks for"),
                scope,
                JobForm.chosen(Severity.class, typed.severity(), "a severity"),
                percent("the chance", typed.below()),
                percent("the critical chance", typed.criticalBelow()));
    }

    private static int percent(String what, String text) {
        if (!text.strip().matches("\\d{1,3}"))
            throw new IllegalArgumentException(what + " must be a whole number of per cent, was \"" + text + "\"");
        return Integer.parseInt(text.strip());
    }

    @PostMapping("/batch/guards/sentence")
    String sentence(Typed typed, @RequestParam Map<String, String> sent, Model model) {
        model.addAttribute("typed", typed);
        means(typed, sent, model);
        return "run-guard-edit :: means";
    }

    @PostMapping("/batch/guards/save")
    String save(
            Typed typed,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var errors = new LinkedHashMap<String, String>();
        if (typed.name().isBlank() || typed.name().length() > 100)
            errors.put("name", "A guard has a name of at most 100 letters.");
        try {
            var rule = rule(typed, ScopeForm.read(sent::get));
            if (errors.isEmpty()) {
                long id = guards.keep(
                        new RunGuards.Stored(
                                typed.id(),
                                typed.name().strip(),
                                rule,
                                owner(typed.owner()),
                                typed.fixNote().replace("\r\n", "\n"),
                                typed.active(),
                                typed.version(),
                                false),
                        by);
                return "redirect:/batch/guards/" + id + "?saved";
            }
        } catch (JobBook.Overtaken overtaken) {
            errors.put("", String.valueOf(overtaken.getMessage()));
        } catch (IllegalArgumentException bad) {
            errors.put("", Sentence.of(bad));
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, sent, errors, model);
    }

    private @Nullable Long owner(String typed) {
        if (typed.isBlank()) return null;
        var team = typed.matches("\\d{1,18}") ? estate.team(Long.parseLong(typed)) : Optional.<Estate.Team>empty();
        return team.map(Estate.Team::id).orElseThrow(() -> new IllegalArgumentException("there is no team " + typed));
    }

    @PostMapping("/batch/guards/{id}/delete")
    String delete(@PathVariable long id, @RequestParam int version, @AuthenticationPrincipal Person by) {
        find(id);
        guards.delete(id, version, by);
        return "redirect:/batch/guards";
    }

    private RunGuards.Stored find(long id) {
        return guards.find(id).orElseThrow(() -> missing("" + id));
    }

    private static ResponseStatusException missing(String id) {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no guard over runs " + id + ".");
    }
}
