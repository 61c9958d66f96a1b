package app.morvet.ground.access;

import jakarta.servlet.http.HttpSession;
import org.jspecify.annotations.Nullable;
import org.springframework.security.web.WebAttributes;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The log-in page, and the way from the bare address to the first place. */
@Controller
class LogInController {
    @GetMapping("/login")
    String page(
            @RequestParam @Nullable String refused,
            @RequestParam @Nullable String out,
            @Nullable HttpSession session,
            Model model) {
        if (session != null && refused != null) {
            model.addAttribute("refusal", session.getAttribute(WebAttributes.AUTHENTICATION_EXCEPTION));
            model.addAttribute("typed", session.getAttribute("login.typed"));
        }
        model.addAttribute("out", out != null);
        return "login";
    }

    @GetMapping("/")
    String home() {
        return "redirect:/cases";
    }
}
