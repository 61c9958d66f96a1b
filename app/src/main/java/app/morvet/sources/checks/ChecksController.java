package app.morvet.sources.checks;

import app.morvet.core.checks.Kinds;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.SecretHeaders;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.probe.Around;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.Outposts;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
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
    private static final int A_PAGE = 50;

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

    /** What an outpost heard last. */
    record HeardFrom(String name, String state, String mark, String why, String at) {}

    private final Checks checks;
    private final Asking asking;
    private final CheckTries tries;
    private final Outposts outposts;
    private final Estate estate;
    private final Times times;
    private final Clock clock;

    ChecksController(
            Checks checks,
            Asking asking,
            CheckTries tries,
            Outposts outposts,
            Estate estate,
            Times times,
            Clock clock) {
        this.checks = checks;
        this.asking = asking;
        this.tries = tries;
        this.outposts = outposts;
        this.estate = estate;
        this.times = times;
        this.clock = clock;
    }

    @GetMapping("/services/checks")
    String list(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "1") String page,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        int number = page.matches("[1-9]\\d{0,5}") ? Integer.parseInt(page) : 1;
        long count = checks.count(q);
        var names = checks.names();
        model.addAttribute("q", q.strip());
        model.addAttribute("page", number);
        model.addAttribute("count", count);
        model.addAttribute("more", count > (long) number * A_PAGE);
        model.addAttribute(
                "rows",
                checks.page(q, (number - 1) * A_PAGE, A_PAGE).stream()
                        .map(one -> row(one, names))
                        .toList());
        return "check-rows".equals(target) ? "checks :: rows" : "checks";
    }

    private Row row(StoredCheck one, Map<Long, String> names) {
        var component = estate.component(one.component());
        var last = one.last();
        return new Row(
                one.id(),
                one.name(),
                component.key(),
                component.name(),
                Checks.sentence(one, names),
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
            case Result.NO_ANSWER -> "critical";
            default -> "warning";
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
        fields.put("logIn", "");
        return page(0, new CheckForm(fields), null, Map.of(), model);
    }

    private CheckForm form(StoredCheck one) {
        var secrets = checks.secrets(one.id());
        return CheckForm.of(
                one,
                estate.component(one.component()).name(),
                SecretHeaders.covered(secrets.headers()),
                secrets.logIn().isEmpty() ? "" : SecretHeaders.KEPT);
    }

    private String page(
            long id, CheckForm form, @Nullable StoredCheck standing, Map<String, String> errors, Model model) {
        model.addAttribute("id", id);
        model.addAttribute("form", form);
        model.addAttribute("kinds", Kinds.ALL);
        model.addAttribute("outposts", outposts.standing());
        model.addAttribute("errors", errors);
        var passed = id == 0 ? null : checks.passed(id).orElse(null);
        model.addAttribute("passed", passed);
        model.addAttribute("passedAt", passed == null ? "" : times.of(passed.at()));
        var last = standing == null ? null : standing.last();
        model.addAttribute("changed", last != null && last.state().equals(Result.CHANGED));
        model.addAttribute("heard", standing == null || standing.from().size() < 2 ? List.of() : heard(id));
        return "check-edit";
    }

    private List<HeardFrom> heard(long id) {
        return checks.heard(id).stream()
                .map(one -> new HeardFrom(
                        outposts.find(one.outpost()).map(Outpost::name).orElse("?"),
                        one.state() == null ? "not heard yet" : one.state(),
                        one.state() == null ? "nodata" : mark(one.state()),
                        one.why(),
                        one.at() == null ? "" : times.of(one.at())))
                .toList();
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
        var read = form.read(times.zone(), clock.instant());
        var look = read.look();
        if (look == null) return cannot(String.join(" ", read.errors().values()), model);
        var before = id == 0 ? null : checks.find(id).orElse(null);
        var secrets = secrets(form, before, look.target().hosts());
        var fault = fault(secrets);
        if (fault != null) return cannot(fault, model);
        if (!form.from().isEmpty()) return triedFrom(form.from().getFirst(), look, secrets, model);
        try {
            asking.allowed(look.kind(), look.target());
        } catch (IllegalArgumentException not) {
            return cannot(String.valueOf(not.getMessage()), model);
        }
        var result = asking.ask(look.target(), new Around(secrets.headers(), secrets.logIn(), "", clock.instant()), 1);
        return shown(look, result, "", model);
    }

    private static String shown(Look look, Result result, String from, Model model) {
        model.addAttribute(
                "result",
                new Tried(
                        look.words() + from,
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

    /** An outpost is asked to try it, which it does within seconds. */
    private String triedFrom(long outpost, Look look, StoredCheck.Secrets secrets, Model model) {
        var one = outposts.find(outpost).orElse(null);
        if (one == null || one.isSilent(clock.instant()))
            return cannot("The outpost is silent, so it cannot try it.", model);
        model.addAttribute("waiting", tries.ask(outpost, look, secrets));
        model.addAttribute("waitingFor", one.name());
        return "check-edit :: tried";
    }

    /** What came of a try from an outpost, or that it is still waited for. */
    @PostMapping("/services/checks/tries/{id:\\d{1,18}}")
    String triedAfterwards(@PathVariable long id, Model model) {
        var one = tries.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no try " + id + "."));
        var name = outposts.find(one.outpost()).map(Outpost::name).orElse("");
        var told = one.result();
        if (told != null) return shown(one.look(), tries.result(told), ", from " + name, model);
        if (!tries.waits(one)) return cannot("The outpost " + name + " has not said what came of it.", model);
        model.addAttribute("waiting", id);
        model.addAttribute("waitingFor", name);
        return "check-edit :: tried";
    }

    private static String cannot(String why, Model model) {
        model.addAttribute("cannot", why);
        return "check-edit :: tried";
    }

    /** What is kept secret goes to the hosts that it was written for; for others it is written anew. */
    private StoredCheck.Secrets secrets(CheckForm form, @Nullable StoredCheck before, List<String> hosts) {
        boolean sameHosts = before != null && before.look().target().hosts().containsAll(hosts);
        var kept = sameHosts ? checks.secrets(before.id()) : StoredCheck.Secrets.NONE;
        var logIn = form.get("logIn");
        return new StoredCheck.Secrets(
                SecretHeaders.keeping(form.headers(), kept.headers()),
                logIn.equals(SecretHeaders.KEPT) ? kept.logIn().isEmpty() ? logIn : kept.logIn() : logIn);
    }

    private static @Nullable String fault(StoredCheck.Secrets secrets) {
        if (secrets.logIn().equals(SecretHeaders.KEPT)) return "There is no log-in to be kept; write it anew.";
        return SecretHeaders.fault(secrets.headers()).orElse(null);
    }

    @PostMapping("/services/checks/{id:\\d{1,18}}")
    String save(
            @PathVariable long id,
            @RequestParam Map<String, String> fields,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var form = new CheckForm(fields);
        var read = form.read(times.zone(), clock.instant());
        var errors = new LinkedHashMap<>(read.errors());
        var before = id == 0 ? null : find(id);
        var look = read.look();
        try {
            if (look != null) {
                var secrets = secrets(form, before, look.target().hosts());
                var fault = fault(secrets);
                if (fault != null) errors.put("headers", fault);
                if (errors.isEmpty()) {
                    int version = form.get("version").matches("\\d{1,9}") ? Integer.parseInt(form.get("version")) : 0;
                    checks.keep(
                            new StoredCheck(
                                    id,
                                    form.get("name"),
                                    0,
                                    read.every(),
                                    read.tries(),
                                    look,
                                    form.from(),
                                    read.agree(),
                                    id == 0 || form.has("active", "yes"),
                                    version,
                                    null),
                            secrets,
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

    @PostMapping("/services/checks/{id:\\d{1,18}}/as-it-is")
    String asItIs(@PathVariable long id, @AuthenticationPrincipal Person by) {
        checks.asItIs(id, by);
        return "redirect:/services/checks";
    }

    /** Switches all checks of the component of this one on or off. */
    @PostMapping("/services/checks/{id:\\d{1,18}}/all")
    String switchAll(
            @PathVariable long id, @RequestParam(defaultValue = "") String active, @AuthenticationPrincipal Person by) {
        checks.switchAll(find(id).component(), active.equals("yes"), by);
        return "redirect:/services/checks";
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
