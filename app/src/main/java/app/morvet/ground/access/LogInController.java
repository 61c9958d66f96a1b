package app.morvet.ground.access;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.RequestAttribute;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The log-in page, and the way from the bare address to the first place. */
@Controller
class LogInController {
    static final String REFUSED = "/login/refused";
    /** Where those begin who do the work of a shift. */
    static final String SHIFT = "/shift";

    /** Where those begin who see what is handed to their teams and nothing else. */
    static final String HANDED = "/handed";

    private final OpenIdSettings elsewhere;

    LogInController(OpenIdSettings elsewhere) {
        this.elsewhere = elsewhere;
    }

    /** What the button to a log-in elsewhere says; null where there is none. */
    @ModelAttribute("elsewhere")
    @Nullable
    String elsewhere() {
        return elsewhere.isSet() ? elsewhere.name() : null;
    }

    /** Shows the log-in with what is wrong at once, so that nothing need be kept of who is not known. */
    static void refuse(HttpServletRequest request, HttpServletResponse response, HttpStatus status, String why)
            throws IOException, ServletException {
        response.setStatus(status.value());
        request.setAttribute("refusal", why);
        request.setAttribute("typed", request.getParameter("username"));
        request.getRequestDispatcher(REFUSED).forward(request, response);
    }

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
        return "redirect:" + (by.may("WORK") ? SHIFT : HANDED);
    }
}
