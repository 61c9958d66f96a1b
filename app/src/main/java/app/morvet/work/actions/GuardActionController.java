package app.morvet.work.actions;

import app.morvet.core.actions.GuardAction;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.rules.guards.Guards;
import app.morvet.rules.guards.StoredGuard;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.Outposts;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What a guard has done by itself: chosen from what outposts offer, by leads. */
@Controller
class GuardActionController {
    private final ActionStore store;
    private final Guards guards;
    private final Outposts outposts;
    private final WebActions web;
    private final Audit audit;
    private final Clock clock;

    GuardActionController(
            ActionStore store, Guards guards, Outposts outposts, WebActions web, Audit audit, Clock clock) {
        this.store = store;
        this.guards = guards;
        this.outposts = outposts;
        this.web = web;
        this.audit = audit;
        this.clock = clock;
    }

    @GetMapping("/guards/{id:\\d{1,18}}/action")
    String page(@PathVariable long id, Model model) {
        var standing = store.ofGuard(id).orElse(null);
        model.addAttribute("action", standing == null ? "" : standing.action());
        model.addAttribute("often", standing == null ? "2" : "" + standing.atMost());
        model.addAttribute("within", standing == null ? "1 h" : Spans.words(standing.within()));
        model.addAttribute("given", standing == null ? Map.of() : standing.arguments());
        return filled(id, standing != null, model);
    }

    private String filled(long id, boolean stands, Model model) {
        model.addAttribute("guard", find(id));
        model.addAttribute("stands", stands);
        model.addAttribute("offered", offered());
        return "guard-action";
    }

    /** By name, with its arguments; those that differ only in what they are done to are one. */
    private Map<String, Outpost.Action> offered() {
        var all = new TreeMap<String, Outpost.Action>();
        for (var outpost : outposts.standing()) {
            var said = outpost.said();
            if (said != null)
                said.actions().forEach(one -> all.putIfAbsent(GuardAction.general(one.name(), one.of()), one));
        }
        web.all()
                .forEach(one -> all.putIfAbsent(
                        one.name(),
                        new Outpost.Action(one.name(), "", one.lowest().word(), one.offered())));
        return all;
    }

    @PostMapping("/guards/{id:\\d{1,18}}/action")
    @Transactional
    public String save(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String action,
            @RequestParam(defaultValue = "") String often,
            @RequestParam(defaultValue = "") String within,
            @RequestParam Map<String, String> fields,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        StoredGuard guard = find(id);
        var before = store.ofGuard(id).map(GuardAction::words).orElse(null);
        var given = new LinkedHashMap<String, String>();
        try {
            var chosen = offered().get(action.strip());
            if (chosen == null) throw new IllegalArgumentException("No outpost offers \"" + action.strip() + "\".");
            if (!Actions.may(by, chosen))
                throw new IllegalArgumentException("It is done with your rights, and for \"%s\" one must be %s."
                        .formatted(action.strip(), chosen.right()));
            for (var argument : chosen.arguments()) {
                var value = fields.getOrDefault(action.strip() + " " + argument.name(), "");
                if (!argument.values().contains(value))
                    throw new IllegalArgumentException(
                            "%s is one of %s.".formatted(argument.name(), String.join(", ", argument.values())));
                given.put(argument.name(), value);
            }
            if (!often.strip().matches("\\d{1,3}")) throw new IllegalArgumentException("How often is a whole number.");
            var wanted = new GuardAction(
                    id, action.strip(), given, Integer.parseInt(often.strip()), Spans.read(within), by.id());
            store.keep(wanted, clock.instant());
            audit.record(by, "guard acts by itself", "guard " + guard.name(), before, wanted.words());
            return "redirect:/guards/" + id;
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
            model.addAttribute("action", action);
            model.addAttribute("often", often);
            model.addAttribute("within", within);
            model.addAttribute("given", given);
            return filled(id, before != null, model);
        }
    }

    @PostMapping("/guards/{id:\\d{1,18}}/action/none")
    @Transactional
    public String none(@PathVariable long id, @AuthenticationPrincipal Person by) {
        store.ofGuard(id).ifPresent(one -> {
            store.forget(id);
            audit.record(by, "guard acts no more by itself", "guard " + find(id).name(), one.words(), null);
        });
        return "redirect:/guards/" + id;
    }

    private StoredGuard find(long id) {
        var guard = guards.byIds(List.of(id)).get(id);
        if (guard == null) throw new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no guard " + id + ".");
        return guard;
    }
}
