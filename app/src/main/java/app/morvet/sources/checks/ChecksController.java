package app.morvet.sources.checks;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.SecretHeaders;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Checks: the list of them, one being made as its sentence, and tried before it is kept. */
@Controller
class ChecksController {
    private static final int SHOWN_OF_AN_ANSWER = 4000;

    /** @param last what came of it last, and when */
    record Row(
            long id,
            String name,
            String key,
            String component,
            String sentence,
            boolean active,
            String mark,
            String state,
            String why,
            String last,
            String took) {}

    /** What came of a try. */
    record Tried(
            String asked, String state, String mark, String why, String took, List<Verdict> verdicts, String said) {}

    private final Checks checks;
    private final Prober prober;
    private final Estate estate;
    private final Times times;

    ChecksController(Checks checks, Prober prober, Estate estate, Times times) {
        this.checks = checks;
        this.prober = prober;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/services/checks")
    String list(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        model.addAttribute("rows", checks.all().stream().map(this::row).toList());
        return "check-rows".equals(target) ? "checks :: rows" : "checks";
    }

    private Row row(StoredCheck one) {
        var component = estate.component(one.component());
        var last = one.last();
        return new Row(
                one.id(),
                one.name(),
                component.key(),
                component.name(),
                one.sentence(),
                one.active(),
                !one.active() || last == null ? "nodata" : mark(last.state()),
                !one.active() ? "off" : last == null ? "not run yet" : last.state(),
                !one.active() || last == null ? "" : last.why(),
                last == null ? "" : times.of(last.at()),
                last == null ? "" : last.took().toMillis() + " ms");
    }

    private static String mark(String state) {
        return switch (state) {
            case Result.PASSED -> "steady";
            case Result.FAILED -> "warning";
            default -> "critical";
        };
    }

    @GetMapping("/services/checks/new")
    String fresh(@RequestParam Map<String, String> fields, Model model) {
        return page(0, new CheckForm(fields), null, Map.of(), model);
    }

    @GetMapping("/services/checks/{id:\\d{1,18}}/edit")
    String edit(@PathVariable long id, Model model) {
        var one = find(id);
        return page(id, form(one), one, Map.of(), model);
    }

    @GetMapping("/services/checks/{id:\\d{1,18}}/copy")
    String copy(@PathVariable long id, Model model) {
        var form = form(find(id));
        var fields = new LinkedHashMap<>(form.fields());
        fields.put("name", "Copy of " + form.get("name"));
        // What is secret is not carried over to what somebody may point elsewhere.
        fields.put("headers", "");
        return page(0, new CheckForm(fields), null, Map.of(), model);
    }

    private CheckForm form(StoredCheck one) {
        return CheckForm.of(one, estate.component(one.component()).name(), SecretHeaders.covered(one.headers()));
    }

    private String page(
            long id, CheckForm form, @Nullable StoredCheck standing, Map<String, String> errors, Model model) {
        model.addAttribute("id", id);
        model.addAttribute("form", form);
        model.addAttribute("kinds", CheckForm.KINDS);
        model.addAttribute("errors", errors);
        model.addAttribute("passed", standing == null ? null : standing.passed());
        model.addAttribute(
                "passedAt",
                standing == null || standing.passed() == null
                        ? ""
                        : times.of(standing.passed().at()));
        var target = form.read().target();
        model.addAttribute(
                "sentence", target == null ? "" : "Every " + form.get("every") + ", " + target.words() + ".");
        return "check-edit";
    }

    /** The sentence with the fields that its kind needs. */
    @PostMapping("/services/checks/sentence")
    String sentence(@RequestParam Map<String, String> fields, Model model) {
        page(0, new CheckForm(fields), null, Map.of(), model);
        return "check-edit :: fields";
    }

    /** Asks at once, and shows what was asked, what came back, and what became of each expectation. */
    @PostMapping("/services/checks/{id:\\d{1,18}}/try")
    String tried(@PathVariable long id, @RequestParam Map<String, String> fields, Model model)
            throws InterruptedException {
        var form = new CheckForm(fields);
        var read = form.read();
        var target = read.target();
        if (target == null) {
            model.addAttribute("cannot", String.join(" ", read.errors().values()));
            return "check-edit :: tried";
        }
        var before = id == 0 ? null : checks.find(id).orElse(null);
        var headers = headers(form, before, target.host());
        var fault = SecretHeaders.fault(headers);
        if (fault.isPresent()) {
            model.addAttribute("cannot", fault.get());
            return "check-edit :: tried";
        }
        var result = prober.ask(target, headers);
        model.addAttribute(
                "result",
                new Tried(
                        target.words(),
                        result.state(),
                        mark(result.state()),
                        result.why(),
                        result.took().toMillis() + " ms",
                        result.verdicts(),
                        result.said().length() > SHOWN_OF_AN_ANSWER
                                ? result.said().substring(0, SHOWN_OF_AN_ANSWER) + "…"
                                : result.said()));
        return "check-edit :: tried";
    }

    /** What is kept secret goes to the host that it was written for; for another it is written anew. */
    private static String headers(CheckForm form, @Nullable StoredCheck before, String host) {
        boolean sameHost = before != null && before.target().host().equals(host);
        return SecretHeaders.keeping(form.fields().getOrDefault("headers", ""), sameHost ? before.headers() : "");
    }

    @PostMapping("/services/checks/{id:\\d{1,18}}")
    String save(
            @PathVariable long id,
            @RequestParam Map<String, String> fields,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var form = new CheckForm(fields);
        var read = form.read();
        var errors = new LinkedHashMap<>(read.errors());
        var before = id == 0 ? null : find(id);
        var target = read.target();
        try {
            if (target != null) {
                var headers = headers(form, before, target.host());
                SecretHeaders.fault(headers).ifPresent(fault -> errors.put("headers", fault));
                if (errors.isEmpty()) {
                    checks.keep(
                            new StoredCheck(
                                    id,
                                    form.get("name"),
                                    0,
                                    read.every(),
                                    read.tries(),
                                    target,
                                    headers,
                                    id == 0 || form.has("active", "yes"),
                                    form.get("version").matches("\\d{1,9}") ? Integer.parseInt(form.get("version")) : 0,
                                    null,
                                    null),
                            form.get("component"),
                            by);
                    return "redirect:/services/checks";
                }
            }
        } catch (IllegalArgumentException | IllegalStateException wrong) {
            errors.put("", Sentence.of(new IllegalArgumentException(wrong.getMessage())));
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(id, form, before, errors, model);
    }

    @PostMapping("/services/checks/{id:\\d{1,18}}/delete")
    String delete(@PathVariable long id, @AuthenticationPrincipal Person by) {
        checks.delete(id, by);
        return "redirect:/services/checks";
    }

    private StoredCheck find(long id) {
        return checks.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no check " + id + "."));
    }
}
