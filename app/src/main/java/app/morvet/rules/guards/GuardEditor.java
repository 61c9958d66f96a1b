package app.morvet.rules.guards;

import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Limits;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** A guard edited as its sentence; what it would have done is drawn beside it by {@link GuardBench}. */
@Controller
class GuardEditor {
    private static final int NAMED = 12;

    /** What the edited sentence means right now. */
    record Meaning(String sentence, int count, List<String> matches, List<String> doubts) {}

    private static final int LONGEST_WHY = 500;

    private final Guards guards;
    private final GuardStore store;
    private final Matching matching;
    private final Doubts doubts;
    private final Estate estate;
    private final Scopes scopes;
    private final Times times;

    GuardEditor(
            Guards guards,
            GuardStore store,
            Matching matching,
            Doubts doubts,
            Estate estate,
            Scopes scopes,
            Times times) {
        this.guards = guards;
        this.store = store;
        this.matching = matching;
        this.doubts = doubts;
        this.estate = estate;
        this.scopes = scopes;
        this.times = times;
    }

    @GetMapping("/guards/new")
    String fresh(@RequestParam Map<String, String> fields, Model model) {
        var form = new GuardForm(fields);
        if (form.get("measure").isEmpty())
            form = form.with("measure", "failed_messages")
                    .with("component", Estate.INTERFACE)
                    .with("fold", "sum")
                    .with("warning", "12")
                    .with("critical", "80");
        return page(0, form, Map.of(), model);
    }

    @GetMapping("/guards/{id:\\d+}/edit")
    String edit(@PathVariable long id, Model model) {
        return page(id, GuardForm.of(find(id)), Map.of(), model);
    }

    @GetMapping("/guards/{id:\\d+}/copy")
    String copy(@PathVariable long id, Model model) {
        var form = GuardForm.of(find(id));
        return page(0, form.with("name", "Copy of " + form.get("name")).with("version", "0"), Map.of(), model);
    }

    private String page(long id, GuardForm form, Map<String, String> errors, Model model) {
        model.addAttribute("id", id);
        model.addAttribute("title", id == 0 ? "New guard" : form.get("name"));
        // What came within the second in which the page is opened stands in the picture, too.
        model.addAttribute("until", times.now().getEpochSecond() + 1);
        fillSentence(form, errors, model);
        model.addAttribute("meaning", meaning(form));
        return "guard";
    }

    private void fillSentence(GuardForm form, Map<String, String> errors, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("errors", errors);
        scopes.fill(ScopeForm.typed(form::get), model);
        model.addAttribute("teams", estate.teams());
        model.addAttribute("measures", matching.measures());
        model.addAttribute(
                "unit",
                matching.measure(form.get("measure"))
                        .map(one -> one.unitWords())
                        .orElse(""));
        model.addAttribute(
                "others",
                store.all().stream()
                        .filter(guard -> !(guard.rule() instanceof CombinationGuard))
                        .toList());
    }

    /** The sentence with the fields that its kind needs, after another kind was chosen. */
    @PostMapping("/guards/sentence")
    String sentence(@RequestParam Map<String, String> fields, Model model) {
        fillSentence(new GuardForm(fields), Map.of(), model);
        return "guard-sentence :: sentence";
    }

    private Meaning meaning(GuardForm form) {
        var read = GuardFormReader.read(form, times.zone());
        var rule = read.rule();
        var subjects = rule == null ? matching.of(read.watch()) : guards.matches(rule, read.watch());
        var names = subjects.stream().limit(NAMED).map(Subject::name).toList();
        var said = rule == null && subjects.isEmpty() && !form.has("kind", "combination")
                ? doubts.plain(
                        new app.morvet.core.guard.SilenceGuard(
                                Limits.above(1, 2), app.morvet.core.guard.Terms.clearing(1, Duration.ZERO)),
                        read.watch(),
                        subjects)
                : rule == null ? List.<String>of() : doubts.plain(rule, read.watch(), subjects);
        return new Meaning(rule == null ? "" : guards.sentence(rule, read.watch()), subjects.size(), names, said);
    }

    /** The form as it is being edited: what it means, and what cannot be read. */
    @PostMapping("/guards/meaning")
    String meaning(@RequestParam Map<String, String> fields, Model model) {
        var form = new GuardForm(fields);
        var errors =
                new LinkedHashMap<>(GuardFormReader.read(form, times.zone()).errors());
        errors.remove("name");
        model.addAttribute("errors", errors);
        model.addAttribute("meaning", meaning(form));
        return "guard-parts :: meaning";
    }

    @PostMapping("/guards/{id:\\d+}")
    String save(
            @PathVariable long id,
            @RequestParam Map<String, String> fields,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        boolean tunesOnly = !by.may("TUNE");
        if (tunesOnly && id == 0) throw new ResponseStatusException(HttpStatus.FORBIDDEN, "A lead makes new guards.");
        var form = tunesOnly ? GuardForm.of(find(id)).tuned(fields) : new GuardForm(fields);
        var read = GuardFormReader.read(form, times.zone());
        var rule = read.rule();
        if (tunesOnly && form.get("why").isEmpty())
            return refused(id, form, Map.of("why", "Say why, for whoever looks at the limits next."), response, model);
        if (rule == null || !read.errors().isEmpty()) return refused(id, form, read.errors(), response, model);
        try {
            var owner = form.get("owner").matches("[1-9]\\d{0,17}") ? Long.valueOf(form.get("owner")) : null;
            if (owner != null && estate.team(owner).isEmpty())
                return refused(id, form, Map.of("owner", "There is no such team."), response, model);
            boolean active = id == 0 ? !form.has("off", "yes") : find(id).active();
            var guard = new StoredGuard(
                    id,
                    form.get("name"),
                    active,
                    read.watch(),
                    rule,
                    form.fields().getOrDefault("fixNote", ""),
                    owner,
                    form.version());
            if (id == 0) return "redirect:/guards/" + guards.add(guard, by);
            guards.change(guard, cut(form.get("why")), by);
            return "redirect:/guards/" + id;
        } catch (DuplicateKeyException taken) {
            return refused(id, form, Map.of("name", "Another guard has this name already."), response, model);
        } catch (Guards.Overtaken | IllegalArgumentException wrong) {
            return refused(id, form, Map.of("", String.valueOf(wrong.getMessage())), response, model);
        }
    }

    private static String cut(String why) {
        return why.length() <= LONGEST_WHY ? why : why.substring(0, LONGEST_WHY);
    }

    private String refused(
            long id, GuardForm form, Map<String, String> errors, HttpServletResponse response, Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(id, form, errors, model);
    }

    private StoredGuard find(long id) {
        return store.byId(id)
                .filter(one -> !one.deleted())
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no guard " + id + "."));
    }
}
