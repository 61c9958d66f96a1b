package app.morvet.views.upkeep;

import app.morvet.core.estate.Tier;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Leaf;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The applications of the estate, a page at a time; one of them at a time is changed. */
@Controller
class ApplicationsController {
    private static final int PAGE = 50;

    record Row(Estate.Application application, String team, long components) {}

    /**
     * What stands in a form.
     *
     * @param team 0 while none is chosen
     */
    record Typed(String name, int tier, String environment, long team) {
        static final Typed NOTHING = new Typed("", 3, Estate.ENVIRONMENTS.getFirst(), 0);

        static Typed of(Estate.Application one) {
            return new Typed(one.name(), one.tier().number(), one.environment(), one.teamId());
        }
    }

    private final Estate estate;
    private final Upkeep upkeep;
    private final Columns<Estate.Application> columns;

    ApplicationsController(Estate estate, Upkeep upkeep) {
        this.estate = estate;
        this.upkeep = upkeep;
        this.columns = new Columns<Estate.Application>()
                .with("key", Estate.Application::key)
                .with("name", Estate.Application::name)
                .with("tier", one -> "" + one.tier().number())
                .with("environment", Estate.Application::environment)
                .with("team", this::teamOf);
    }

    /** @param change the key of the application whose form is open */
    @GetMapping("/estate/applications")
    String applications(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "0") int from,
            @RequestParam(defaultValue = "") String change,
            Model model) {
        model.addAttribute("changed", estate.application(change).map(Typed::of).orElse(null));
        return page(q, from, change, model);
    }

    private String page(String q, int from, String change, Model model) {
        var found = columns.find(estate.applications(), q);
        model.addAttribute("find", q);
        model.addAttribute("change", change);
        model.addAttribute("count", found.size());
        Leaf.of(found, from, PAGE).show(model, one -> new Row(one, teamOf(one), estate.countOf(one)));
        model.addAttribute("teams", estate.teams());
        model.addAttribute("environments", Estate.ENVIRONMENTS);
        if (!model.containsAttribute("fresh")) model.addAttribute("fresh", Typed.NOTHING);
        return "estate-applications";
    }

    private String teamOf(Estate.Application one) {
        return estate.team(one.teamId()).map(Estate.Team::name).orElse("");
    }

    @GetMapping("/estate/applications.csv")
    ResponseEntity<byte[]> csv() {
        return Files.out(
                "applications.csv",
                "text/csv",
                EstateFile.write(
                        columns.names(),
                        estate.applications().stream()
                                .map(one -> columns.names().stream()
                                        .map(column -> columns.of(one, column))
                                        .toList())
                                .toList()));
    }

    @PostMapping("/estate/applications")
    String add(
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "3") int tier,
            @RequestParam(defaultValue = "production") String environment,
            @RequestParam(defaultValue = "0") long team,
            @AuthenticationPrincipal Person by,
            Model model,
            HttpServletResponse response) {
        var typed = new Typed(name, tier, environment, team);
        try {
            upkeep.add(
                    name.strip(),
                    new Tier(tier),
                    environment,
                    estate.team(team).orElseThrow(() -> new IllegalArgumentException("Choose the team that owns it.")),
                    by);
            return "redirect:/estate/applications";
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("fresh", typed);
            return refused(wrong.getMessage(), "", 0, "", model, response);
        }
    }

    @PostMapping("/estate/applications/{key}")
    String change(
            @PathVariable String key,
            @RequestParam String name,
            @RequestParam int tier,
            @RequestParam String environment,
            @RequestParam long team,
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "0") int from,
            @AuthenticationPrincipal Person by,
            Model model,
            RedirectAttributes back,
            HttpServletResponse response) {
        var before = estate.application(key)
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no application " + key + "."));
        var typed = new Typed(name, tier, environment, team);
        try {
            upkeep.change(
                    new Estate.Application(before.id(), key, name.strip(), new Tier(tier), environment, team), by);
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("changed", typed);
            return refused(before.name() + ": " + wrong.getMessage(), q, from, key, model, response);
        }
        if (!q.isEmpty()) back.addAttribute("q", q);
        if (from > 0) back.addAttribute("from", from);
        return "redirect:/estate/applications";
    }

    private String refused(String why, String q, int from, String change, Model model, HttpServletResponse response) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        model.addAttribute("refusal", why);
        return page(q, from, change, model);
    }
}
