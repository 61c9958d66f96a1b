package app.morvet.work.actions;

import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import jakarta.servlet.http.HttpServletResponse;
import java.util.HashMap;
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
import org.springframework.web.server.ResponseStatusException;

/** Where an action is asked for, from a component or a case; and what came of those that were. */
@Controller
class ActionsController {
    private final Actions actions;
    private final Estate estate;

    ActionsController(Actions actions, Estate estate) {
        this.actions = actions;
        this.estate = estate;
    }

    @GetMapping("/actions/{key}")
    String list(
            @PathVariable String key,
            @RequestParam(name = "case", defaultValue = "0") long caseId,
            @AuthenticationPrincipal Person who,
            Model model) {
        return shown(find(key), caseId, null, who, model);
    }

    private String shown(Estate.Component component, long caseId, @Nullable String refusal, Person who, Model model) {
        model.addAttribute("on", actions.on(component, caseId, who));
        model.addAttribute("refusal", refusal);
        return "action-parts :: all";
    }

    @PostMapping("/actions/{key}")
    String ask(
            @PathVariable String key,
            @RequestParam(defaultValue = "0") long outpost,
            @RequestParam(defaultValue = "0") long web,
            @RequestParam(defaultValue = "") String action,
            @RequestParam(name = "case", defaultValue = "0") long caseId,
            @RequestParam Map<String, String> fields,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var component = find(key);
        var arguments = new HashMap<String, String>();
        fields.forEach((name, value) -> {
            if (name.startsWith("with-")) arguments.put(name.substring(5), value);
        });
        try {
            actions.ask(outpost, web, action, arguments, component, caseId, by);
            return shown(component, caseId, null, by, model);
        } catch (IllegalArgumentException refused) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return shown(component, caseId, refused.getMessage(), by, model);
        }
    }

    private Estate.Component find(String key) {
        return estate.byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
    }
}
