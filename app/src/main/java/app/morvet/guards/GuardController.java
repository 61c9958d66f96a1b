package app.morvet.guards;

import app.morvet.access.Person;
import app.morvet.core.alert.Severity;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.estate.Estate;
import app.morvet.page.FixNotes;
import app.morvet.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.server.ResponseStatusException;

/** The Guards place: the standing guards as sentences, and the sentence form. */
@Controller
class GuardController {
    /**
     * @param mark    the worst that it raises now
     * @param matches how many interfaces it stands over, in words
     * @param nothing whether that is none
     */
    record Row(
            long id,
            String name,
            boolean active,
            String sentence,
            String mark,
            String matches,
            boolean nothing,
            int version) {}

    /** @param value what it counts there now */
    record SubjectRow(String name, String key, String mark, String value) {}

    /** What the edited sentence means right now. */
    record Meaning(String sentence, List<String> matches, boolean nothing) {}

    private final Guards guards;
    private final GuardStore store;
    private final Estate estate;
    private final FixNotes fixNotes;
    private final Times times;

    GuardController(Guards guards, GuardStore store, Estate estate, FixNotes fixNotes, Times times) {
        this.guards = guards;
        this.store = store;
        this.estate = estate;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    @GetMapping("/guards")
    String list(Model model) {
        fillList(model);
        return "guards";
    }

    private void fillList(Model model) {
        var states = store.states();
        model.addAttribute(
                "rows", guards.all().stream().map(guard -> row(guard, states)).toList());
    }

    private Row row(StandingGuard guard, Map<GuardStore.Key, GuardState> states) {
        var matches = guards.matches(guard.watched());
        var worst = matches.stream()
                .map(one -> states.get(new GuardStore.Key(guard.id(), one.id())))
                .filter(state -> state != null && state.level() != null)
                .map(GuardState::level)
                .max(Comparator.naturalOrder())
                .map(Severity::word)
                .orElse("steady");
        var words = matches.isEmpty()
                ? "matches nothing"
                : matches.size() == 1 ? "1 interface" : matches.size() + " interfaces";
        return new Row(
                guard.id(),
                guard.name(),
                guard.active(),
                guards.sentence(guard),
                guard.active() ? worst : "nodata",
                words,
                matches.isEmpty(),
                guard.version());
    }

    @GetMapping("/guards/{id:\\d+}")
    String one(@PathVariable long id, Model model) {
        var guard = find(id);
        var states = store.states();
        fillList(model);
        model.addAttribute("guard", row(guard, states));
        model.addAttribute("fixNote", fixNotes.html(guard.fixNote()));
        model.addAttribute(
                "subjects",
                guards.matches(guard.watched()).stream()
                        .map(one -> {
                            var state = states.get(new GuardStore.Key(id, one.id()));
                            var level = state == null ? null : state.level();
                            return new SubjectRow(
                                    one.name(),
                                    one.key(),
                                    level == null ? "steady" : level.word(),
                                    state == null ? "" : Limits.number(state.value()));
                        })
                        .toList());
        return "guards";
    }

    @GetMapping("/guards/new")
    String fresh(Model model) {
        return form(0, GuardForm.NEW, Map.of(), model);
    }

    @GetMapping("/guards/{id:\\d+}/edit")
    String edit(@PathVariable long id, Model model) {
        return form(id, GuardForm.of(find(id)), Map.of(), model);
    }

    private String form(long id, GuardForm form, Map<String, String> errors, Model model) {
        fillList(model);
        model.addAttribute("id", id);
        model.addAttribute("title", id == 0 ? "New guard" : form.name());
        model.addAttribute("form", form);
        model.addAttribute("errors", errors);
        model.addAttribute("applications", estate.applications());
        model.addAttribute("interfaces", estate.interfaces());
        fillMeaning(form, model);
        return "guard";
    }

    private void fillMeaning(GuardForm form, Model model) {
        var read = form.read(times.zone());
        var matches = guards.matches(read.watched()).stream()
                .map(Estate.Interface::name)
                .toList();
        var rule = read.guard();
        var sentence = rule == null ? "" : GuardSentence.of(rule, read.watched(), estate::nameOf);
        model.addAttribute("meaning", new Meaning(sentence, matches, matches.isEmpty()));
        model.addAttribute("doubts", doubts(rule));
    }

    /** What is allowed and hardly meant. */
    private static List<String> doubts(@Nullable LimitGuard rule) {
        var doubts = new ArrayList<String>();
        if (rule == null) return doubts;
        var warning = rule.limits().warning();
        if (warning != null && warning > 0 && rule.clearing().line(warning) < 1) {
            doubts.add("With this margin a single failure keeps the alert up until it has left the window.");
        }
        return doubts;
    }

    /** The form as it is being edited: what it means, and what cannot be read. */
    @PostMapping("/guards/meaning")
    String meaning(@ModelAttribute GuardForm form, Model model) {
        var errors = new LinkedHashMap<>(form.read(times.zone()).errors());
        errors.remove("name");
        model.addAttribute("errors", errors);
        fillMeaning(form, model);
        return "guard-parts :: meaning";
    }

    @PostMapping("/guards/{id:\\d+}")
    String save(
            @PathVariable long id,
            @ModelAttribute GuardForm form,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var read = form.read(times.zone());
        var rule = read.guard();
        if (rule == null || !read.errors().isEmpty()) return refused(id, form, read.errors(), response, model);
        try {
            if (id == 0)
                return "redirect:/guards/" + guards.add(form.name().strip(), read.watched(), rule, form.fixNote(), by);
            var before = find(id);
            guards.change(
                    new StandingGuard(
                            id,
                            form.name().strip(),
                            before.active(),
                            read.watched(),
                            rule,
                            form.fixNote(),
                            form.version()),
                    by);
            return "redirect:/guards/" + id;
        } catch (DuplicateKeyException taken) {
            return refused(id, form, Map.of("name", "Another guard has this name already."), response, model);
        } catch (Guards.Overtaken overtaken) {
            return refused(id, form, Map.of("", String.valueOf(overtaken.getMessage())), response, model);
        }
    }

    private String refused(
            long id, GuardForm form, Map<String, String> errors, HttpServletResponse response, Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return form(id, form, errors, model);
    }

    /** Switches a guard off or on; switched off, its alerts end. */
    @PostMapping("/guards/{id:\\d+}/switch")
    String onOff(@PathVariable long id, @AuthenticationPrincipal Person by) {
        var guard = find(id);
        guards.change(
                new StandingGuard(
                        id,
                        guard.name(),
                        !guard.active(),
                        guard.watched(),
                        guard.rule(),
                        guard.fixNote(),
                        guard.version()),
                by);
        return "redirect:/guards/" + id;
    }

    private StandingGuard find(long id) {
        return store.byId(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no guard " + id + "."));
    }
}
