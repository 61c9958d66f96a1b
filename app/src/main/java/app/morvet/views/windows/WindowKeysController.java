package app.morvet.views.windows;

import app.morvet.alerting.windows.WindowKeys;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The keys with which deployment tools open windows, and calendars read them. */
@Controller
class WindowKeysController {
    /** @param may what can be done with it, in words */
    record Row(long id, String name, String may, String made, String revoked) {}

    private final WindowKeys keys;
    private final Scopes scopes;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Times times;

    WindowKeysController(WindowKeys keys, Scopes scopes, Estate estate, MorvetSettings settings, Times times) {
        this.keys = keys;
        this.scopes = scopes;
        this.estate = estate;
        this.settings = settings;
        this.times = times;
    }

    @GetMapping("/windows/keys")
    String list(Model model) {
        return page(Map.of("lasting", "60 min", "opens", "yes"), null, model);
    }

    private String page(Map<String, String> sent, @Nullable String refusal, Model model) {
        model.addAttribute("refusal", refusal);
        model.addAttribute("sent", sent);
        model.addAttribute("keys", keys.all().stream().map(this::row).toList());
        model.addAttribute("address", settings.address().toString());
        scopes.fill(ScopeForm.typed(sent::get), model);
        return "window-keys";
    }

    private Row row(WindowKeys.Key one) {
        return new Row(
                one.id(),
                one.name(),
                one.opens()
                        ? "opens windows over %s, for %s at most"
                                .formatted(one.scope().words(estate::nameOf), Spans.words(one.longest()))
                        : "reads the calendar",
                times.of(one.madeAt()),
                times.of(one.revokedAt()));
    }

    @PostMapping("/windows/keys")
    String make(
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            boolean opens = "yes".equals(sent.get("opens"));
            var made = keys.make(
                    sent.getOrDefault("name", "").strip(),
                    opens,
                    ScopeForm.read(sent::get),
                    Spans.read(sent.getOrDefault("lasting", "")),
                    by);
            model.addAttribute("made", made);
            model.addAttribute("madeOpens", opens);
            return page(Map.of("lasting", "60 min", "opens", "yes"), null, model);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(sent, Sentence.of(wrong), model);
        }
    }

    @PostMapping("/windows/keys/{id:\\d{1,18}}/revoke")
    String revoke(@PathVariable long id, @AuthenticationPrincipal Person by) {
        keys.revoke(id, by);
        return "redirect:/windows/keys";
    }
}
