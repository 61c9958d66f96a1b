package app.morvet.ground.access;

import app.morvet.ground.base.Sentence;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.util.List;
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

/** The second factor: asked at the log-in, set up and removed on one's own pages, removed by admins where a telephone is lost. */
@Controller
class SecondFactorController {
    private final SecondFactor second;
    private final Entrance entrance;
    private final People people;
    private final OwnSessions sessions;
    private final Tries tries;

    SecondFactorController(SecondFactor second, Entrance entrance, People people, OwnSessions sessions, Tries tries) {
        this.second = second;
        this.entrance = entrance;
        this.people = people;
        this.sessions = sessions;
        this.tries = tries;
    }

    @GetMapping(Entrance.CODE)
    String code(HttpServletRequest request) {
        var session = request.getSession(false);
        return session == null || entrance.half(session).isEmpty() ? "redirect:/login" : "login-code";
    }

    /** A try is counted before it is looked at, apart from those of passwords. */
    @PostMapping(Entrance.CODE)
    @Nullable
    String code(
            @RequestParam(defaultValue = "") String code,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model)
            throws IOException, ServletException {
        var session = request.getSession(false);
        var half = session == null ? null : entrance.half(session).orElse(null);
        if (half == null) return "redirect:/login";
        var name = half.login() + " code";
        var wait = tries.count(name, request.getRemoteAddr(), "");
        if (!wait.isZero()) {
            response.setStatus(HttpStatus.TOO_MANY_REQUESTS.value());
            model.addAttribute(
                    "refusal",
                    "Too many tries. The next is possible in %d s.".formatted(Math.max(1, wait.toSeconds() + 1)));
            return "login-code";
        }
        if (!second.isRight(half, code)) {
            response.setStatus(HttpStatus.UNAUTHORIZED.value());
            model.addAttribute(
                    "refusal", "This is not the code of now, or it was used already. Wait for the next one.");
            return "login-code";
        }
        tries.right(name, request.getRemoteAddr(), "");
        entrance.enter(half, request, response);
        return null;
    }

    @GetMapping("/me/second")
    String page(@AuthenticationPrincipal Person who, Model model) {
        return page(who, null, model);
    }

    private String page(Person who, @Nullable String refusal, Model model) {
        model.addAttribute("card", people.card(who.id()).orElseThrow());
        model.addAttribute("asked", second.isAsked(who));
        model.addAttribute("left", second.recoveryLeft(who));
        model.addAttribute("secret", second.pending(who).orElse(null));
        model.addAttribute("codes", List.of());
        model.addAttribute("refusal", refusal);
        return "me-second";
    }

    private String refused(Person who, String why, HttpServletResponse response, Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(who, why, model);
    }

    @PostMapping("/me/second")
    String begin(
            @RequestParam(defaultValue = "") String password,
            @AuthenticationPrincipal Person who,
            HttpServletResponse response,
            Model model) {
        try {
            people.checkOwn(who, password);
            second.begin(who);
            return "redirect:/me/second";
        } catch (IllegalArgumentException | IllegalStateException wrong) {
            return refused(who, Sentence.of(wrong), response, model);
        }
    }

    /** Shows the codes for the day on which the telephone is lost, this once; whoever is logged in elsewhere logs in anew. */
    @PostMapping("/me/second/confirmed")
    String confirm(
            @RequestParam(defaultValue = "") String code,
            @AuthenticationPrincipal Person who,
            HttpSession session,
            HttpServletResponse response,
            Model model) {
        try {
            var codes = second.confirm(who, code);
            sessions.endOthers(who, session.getId());
            page(who, null, model);
            model.addAttribute("codes", codes);
            return "me-second";
        } catch (IllegalArgumentException wrong) {
            return refused(who, Sentence.of(wrong), response, model);
        }
    }

    @PostMapping("/me/second/removed")
    String remove(
            @RequestParam(defaultValue = "") String code,
            @AuthenticationPrincipal Person who,
            HttpServletResponse response,
            Model model) {
        if (second.isAsked(who)) {
            var wait = tries.count(who.login() + " code", "own page", "");
            if (!wait.isZero() || !second.isRight(who, code))
                return refused(who, "This is not the code of now, or it was used already.", response, model);
        }
        second.remove(who, who);
        return "redirect:/me/second";
    }

    @PostMapping("/setup/people/{id}/second/removed")
    String removeFor(@PathVariable long id, @AuthenticationPrincipal Person by) {
        var of = people.byId(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such person."));
        second.remove(of, by);
        return "redirect:/setup/people/" + id;
    }
}
