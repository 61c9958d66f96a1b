package app.morvet.views.shift;

import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Comparator;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Into which shifts a day is divided, as a lead says. */
@Controller
class ShiftPlanController {
    private final ShiftPlans plans;
    private final Estate estate;
    private final Live live;

    ShiftPlanController(ShiftPlans plans, Estate estate, Live live) {
        this.plans = plans;
        this.estate = estate;
        this.live = live;
    }

    @GetMapping("/shift/plan")
    String plan(Model model) {
        var kept = plans.kept();
        return page(
                kept.text(),
                Optional.ofNullable(kept.team())
                        .flatMap(estate::team)
                        .map(Estate.Team::key)
                        .orElse(""),
                model);
    }

    private String page(String typed, String team, Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute("team", team);
        model.addAttribute(
                "teams",
                estate.teams().stream()
                        .sorted(Comparator.comparing(Estate.Team::name))
                        .toList());
        model.addAttribute("on", plans.words());
        return "shift-plan";
    }

    @PostMapping("/shift/plan")
    String set(
            @RequestParam(defaultValue = "") String plan,
            @RequestParam(defaultValue = "") String team,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            plans.set(plan, team, by);
            live.changed(ShiftNotes.TOPIC);
            live.changed("now");
            return "redirect:/shift/plan";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", wrong.getMessage());
            return page(plan, team, model);
        }
    }
}
