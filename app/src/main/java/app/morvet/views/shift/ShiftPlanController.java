package app.morvet.views.shift;

import app.morvet.ground.access.Person;
import app.morvet.ground.page.Live;
import jakarta.servlet.http.HttpServletResponse;
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
    private final Live live;

    ShiftPlanController(ShiftPlans plans, Live live) {
        this.plans = plans;
        this.live = live;
    }

    @GetMapping("/shift/plan")
    String plan(Model model) {
        model.addAttribute("typed", plans.plan().text());
        model.addAttribute("on", plans.words());
        return "shift-plan";
    }

    @PostMapping("/shift/plan")
    String set(
            @RequestParam(defaultValue = "") String plan,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            plans.set(plan, by);
            live.changed(ShiftNotes.TOPIC);
            live.changed("now");
            return "redirect:/shift/plan";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("typed", plan);
            model.addAttribute("on", plans.words());
            model.addAttribute("refusal", wrong.getMessage());
            return "shift-plan";
        }
    }
}
