package app.morvet.ground.access;

import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestAttribute;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The log-in page, and the way from the bare address to the first place. */
@Controller
class LogInController {
    static final String REFUSED = "/login/refused";
    /** Where those begin who see what is handed to their teams and nothing else. */
    static final String HANDED = "/handed";

    @GetMapping("/login")
    String page(@RequestParam @Nullable String out, Model model) {
        model.addAttribute("out", out != null);
        return "login";
    }

    /** Where a log-in that was refused goes on, with what was typed. */
    @RequestMapping(REFUSED)
    String refused(
            @RequestAttribute(required = false) @Nullable String refusal,
            @RequestAttribute(required = false) @Nullable String typed,
            Model model) {
        model.addAttribute("refusal", refusal);
        model.addAttribute("typed", typed);
        model.addAttribute("out", false);
        return "login";
    }

    @GetMapping("/")
    String home(@AuthenticationPrincipal Person by) {
        return "redirect:" + (by.may("WORK") ? "/cases" : HANDED);
    }
}
