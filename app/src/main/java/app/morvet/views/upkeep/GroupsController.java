package app.morvet.views.upkeep;

import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Named;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
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

/** Groups of components: which there are, what is in each, and how they are put together. */
@Controller
class GroupsController {
    private static final int NAMED = 6;

    /** @param names of some that a rule takes in; else the words say who is in it */
    record Row(long id, String name, String contact, String words, boolean byRule, int count, String names) {}

    /** The form, typed text and all, but for the rule, which is a scope. */
    record Typed(long id, String name, String contact, String byHand, boolean byRule, int version) {}

    private final Groups groups;
    private final Estate estate;
    private final Scopes scopes;
    private final Upkeep upkeep;

    GroupsController(Groups groups, Estate estate, Scopes scopes, Upkeep upkeep) {
        this.groups = groups;
        this.estate = estate;
        this.scopes = scopes;
        this.upkeep = upkeep;
    }

    @GetMapping("/estate/groups")
    String list(Model model) {
        model.addAttribute("rows", estate.groups().stream().map(this::row).toList());
        return "groups";
    }

    private Row row(Groups.Group group) {
        var members = groups.members(group);
        return new Row(
                group.id(),
                group.name(),
                group.contact(),
                groups.words(group),
                group.rule() != null,
                members.size(),
                names(members, NAMED).list());
    }

    private static Named names(List<Estate.Component> members, int most) {
        return Named.of(members.stream().map(Estate.Component::name).toList(), most);
    }

    @GetMapping("/estate/groups/{id}/edit")
    String edit(@PathVariable String id, Model model) {
        if (id.equals("new")) return page(new Typed(0, "", "", "", true, 0), Map.of(), null, model);
        var group = (id.matches("\\d{1,18}")
                        ? groups.find(Long.parseLong(id))
                        : java.util.Optional.<Groups.Group>empty())
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no group " + id + "."));
        var byHand = group.byHand().stream()
                .map(one -> estate.component(one).name())
                .sorted()
                .collect(Collectors.joining("\n"));
        var rule = group.rule();
        return page(
                new Typed(group.id(), group.name(), group.contact(), byHand, rule != null, group.version()),
                ScopeForm.fields(rule == null ? Scope.ALL : rule),
                null,
                model);
    }

    private String page(Typed typed, Map<String, String> sent, @Nullable String refusal, Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute("refusal", refusal);
        scopes.fill(ScopeForm.typed(sent::get), model);
        means(typed, sent, model);
        return "group-edit";
    }

    private void means(Typed typed, Map<String, String> sent, Model model) {
        try {
            var group = group(typed, sent);
            var members = groups.members(group);
            model.addAttribute("members", names(members, NAMED * 4));
        } catch (IllegalArgumentException bad) {
            model.addAttribute("cannot", Sentence.of(bad));
        }
    }

    private Groups.Group group(Typed typed, Map<String, String> sent) {
        return new Groups.Group(
                typed.id(),
                typed.name().strip(),
                typed.contact().strip(),
                typed.byRule() ? ScopeForm.read(sent::get) : null,
                groups.named(typed.byHand()),
                typed.version());
    }

    private static Typed typed(long id, Map<String, String> sent) {
        var version = sent.getOrDefault("version", "");
        return new Typed(
                id,
                sent.getOrDefault("name", ""),
                sent.getOrDefault("contact", ""),
                sent.getOrDefault("byHand", ""),
                sent.getOrDefault("byRule", "").equals("yes"),
                version.matches("\\d{1,9}") ? Integer.parseInt(version) : 0);
    }

    /** What would be in it, as it is edited. */
    @PostMapping("/estate/groups/{id:\\d{1,18}}/covered")
    String covered(@PathVariable long id, @RequestParam Map<String, String> sent, Model model) {
        means(typed(id, sent), sent, model);
        return "group-edit :: means";
    }

    @PostMapping("/estate/groups/{id:\\d{1,18}}")
    String save(
            @PathVariable long id,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var typed = typed(id, sent);
        try {
            upkeep.keep(group(typed, sent), by);
            return "redirect:/estate/groups";
        } catch (IllegalArgumentException bad) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(typed, sent, Sentence.of(bad), model);
        }
    }

    @PostMapping("/estate/groups/{id:\\d{1,18}}/delete")
    String delete(@PathVariable long id, @AuthenticationPrincipal Person by) {
        upkeep.deleteGroup(id, by);
        return "redirect:/estate/groups";
    }

    /** Names to choose from, where a scope is chosen. */
    @GetMapping("/estate/names")
    String names(@RequestParam(defaultValue = "") String pattern, Model model) {
        model.addAttribute("names", List.copyOf(scopes.names(pattern)));
        return "scope-parts :: names";
    }
}
