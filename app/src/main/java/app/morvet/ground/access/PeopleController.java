package app.morvet.ground.access;

import app.morvet.core.guard.Spans;
import app.morvet.ground.base.Sentence;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseCookie;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Who works here: made, changed and switched off by admins; and what each person changes of themselves. */
@Controller
class PeopleController {
    /** As it is typed. */
    record Typed(String login, String name, Role role, String mail, String phone, boolean active) {
        static Typed of(People.Card one) {
            var person = one.person();
            return new Typed(person.login(), person.name(), person.role(), one.mail(), one.phone(), one.active());
        }
    }

    record SessionRow(String key, String age, String idle, String from, boolean here) {}

    private final People people;
    private final StillThePerson still;
    private final OwnSessions sessions;
    private final SecondFactor second;

    PeopleController(People people, StillThePerson still, OwnSessions sessions, SecondFactor second) {
        this.second = second;
        this.people = people;
        this.still = still;
        this.sessions = sessions;
    }

    @GetMapping("/setup/people")
    String list(Model model) {
        model.addAttribute("cards", people.cards());
        return "people";
    }

    @GetMapping("/setup/people/{id}")
    String one(@PathVariable String id, Model model) {
        return page(
                id, id.equals("new") ? new Typed("", "", Role.ANALYST, "", "", true) : Typed.of(find(id)), null, model);
    }

    private String page(String id, Typed typed, @Nullable String refusal, Model model) {
        model.addAttribute("id", id);
        model.addAttribute("typed", typed);
        model.addAttribute("roles", Role.values());
        model.addAttribute("refusal", refusal);
        model.addAttribute("asked", !id.equals("new") && second.isAsked(find(id).person()));
        return "person";
    }

    private People.Card find(String id) {
        return (id.matches("\\d{1,18}") ? people.card(Long.parseLong(id)) : java.util.Optional.<People.Card>empty())
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no person " + id + "."));
    }

    @PostMapping("/setup/people/{id}")
    String save(
            @PathVariable String id,
            @RequestParam(defaultValue = "") String login,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "ANALYST") Role role,
            @RequestParam(defaultValue = "") String mail,
            @RequestParam(defaultValue = "") String phone,
            @RequestParam(defaultValue = "") String password,
            @RequestParam(defaultValue = "false") boolean active,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var before = id.equals("new") ? null : find(id);
        var typed = new Typed(before == null ? login : before.person().login(), name, role, mail, phone, active);
        try {
            var person = new Person(before == null ? 0 : before.person().id(), typed.login(), name.strip(), role);
            var card = new People.Card(person, mail.strip(), phone.strip(), before == null || active);
            if (before == null) people.make(login, card, password, by);
            else people.change(card, password, by);
            return "redirect:/setup/people";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(id, typed, Sentence.of(wrong), model);
        }
    }

    @GetMapping("/me")
    String me(
            @RequestParam(required = false) @Nullable String saved,
            @AuthenticationPrincipal Person who,
            HttpSession session,
            Model model) {
        return own(who, session, saved, null, model);
    }

    private String own(Person who, HttpSession session, @Nullable String saved, @Nullable String refusal, Model model) {
        model.addAttribute(
                "sessions",
                sessions.of(who, session.getId()).stream()
                        .map(one -> new SessionRow(
                                one.key(), Spans.words(one.age()), Spans.words(one.idle()), one.from(), one.here()))
                        .toList());
        model.addAttribute("card", people.card(who.id()).orElseThrow());
        model.addAttribute("saved", saved);
        model.addAttribute("refusal", refusal);
        return "me";
    }

    @PostMapping("/me/password")
    String password(
            @RequestParam(defaultValue = "") String old,
            @RequestParam(defaultValue = "") String fresh,
            @RequestParam(defaultValue = "") String again,
            @AuthenticationPrincipal Person who,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        try {
            people.ownPassword(who, old, fresh, again);
            // This log-in goes on; all others of this person end.
            still.begins(who, request.getSession());
            return "redirect:/me?saved=password";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return own(who, request.getSession(), null, Sentence.of(wrong), model);
        }
    }

    /** @param key of the log-in that ends; all others but this where it is empty */
    @PostMapping("/me/sessions")
    String end(@RequestParam(defaultValue = "") String key, @AuthenticationPrincipal Person who, HttpSession session) {
        if (key.isEmpty()) sessions.endOthers(who, session.getId());
        else sessions.end(who, key);
        return "redirect:/me?saved=sessions";
    }

    /** Keys belong to a browser, as the paper does: whoever speaks to one types at another. */
    @PostMapping("/me/keys")
    String keys(
            @RequestParam(defaultValue = "on") String keys, HttpServletRequest request, HttpServletResponse response) {
        response.addHeader(
                HttpHeaders.SET_COOKIE,
                ResponseCookie.from("keys", keys.equals("off") ? "off" : "on")
                        .path("/")
                        .maxAge(Duration.ofDays(365))
                        .sameSite("Lax")
                        .httpOnly(true)
                        .secure(request.isSecure())
                        .build()
                        .toString());
        return "redirect:/me/told";
    }
}
