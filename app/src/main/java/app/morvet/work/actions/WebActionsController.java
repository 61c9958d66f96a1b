package app.morvet.work.actions;

import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.connections.SecretHeaders;
import app.morvet.ground.estate.Estate;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Setup: actions that are web calls. */
@Controller
class WebActionsController {
    record Row(long id, String name, String component, String url, String lowest) {}

    private final WebActions actions;
    private final Estate estate;

    WebActionsController(WebActions actions, Estate estate) {
        this.actions = actions;
        this.estate = estate;
    }

    @GetMapping("/setup/actions")
    String page(@RequestParam(defaultValue = "0") long id, Model model) {
        var fields = new HashMap<String, String>(Map.of("lowest", "lead", "body", "{}", "version", "0"));
        if (id != 0) {
            var one = find(id);
            fields.put("name", one.name());
            fields.put("component", estate.component(one.component()).key());
            fields.put("lowest", one.lowest().word());
            fields.put("url", one.url());
            fields.put("headers", SecretHeaders.covered(one.headers()));
            fields.put("body", one.body());
            fields.put("arguments", one.argumentLines());
            fields.put("figureUrl", one.figureUrl());
            fields.put("figurePath", one.figurePath());
            fields.put("version", "" + one.version());
        }
        return shown(id, fields, model);
    }

    private String shown(long id, Map<String, String> fields, Model model) {
        model.addAttribute("id", id);
        model.addAttribute("one", fields);
        model.addAttribute("roles", Arrays.stream(Role.values()).map(Role::word).toList());
        model.addAttribute(
                "rows",
                actions.all().stream()
                        .map(it -> new Row(
                                it.id(),
                                it.name(),
                                estate.component(it.component()).name(),
                                it.url(),
                                it.lowest().word()))
                        .toList());
        return "web-actions";
    }

    @PostMapping("/setup/actions")
    String save(
            @RequestParam(defaultValue = "0") long id,
            @RequestParam Map<String, String> typed,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var fields = new HashMap<>(typed);
        try {
            var component = estate.byKey(text(fields, "component"))
                    .orElseThrow(() -> new IllegalArgumentException(
                            "There is no component \"" + text(fields, "component") + "\"; write its key."));
            var before = id == 0 ? null : find(id);
            boolean sameUrl = before != null && before.url().equals(text(fields, "url"));
            var headers = SecretHeaders.keeping(fields.getOrDefault("headers", ""), sameUrl ? before.headers() : "");
            SecretHeaders.fault(headers).ifPresent(fault -> {
                throw new IllegalArgumentException(fault);
            });
            var lowest = Arrays.stream(Role.values())
                    .filter(one -> one.word().equals(text(fields, "lowest")))
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("Say who may ask for it."));
            actions.keep(
                    new WebAction(
                            id,
                            text(fields, "name"),
                            component.id(),
                            lowest,
                            text(fields, "url"),
                            headers,
                            fields.getOrDefault("body", ""),
                            WebAction.arguments(fields.getOrDefault("arguments", "")),
                            text(fields, "figureUrl"),
                            text(fields, "figurePath"),
                            text(fields, "version").matches("\\d{1,9}")
                                    ? Integer.parseInt(text(fields, "version"))
                                    : 0),
                    component.name(),
                    by);
            return "redirect:/setup/actions";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", wrong.getMessage());
            return shown(id, fields, model);
        }
    }

    @PostMapping("/setup/actions/{id:\\d{1,18}}/delete")
    String delete(@PathVariable long id, @AuthenticationPrincipal Person by) {
        actions.delete(id, by);
        return "redirect:/setup/actions";
    }

    private static String text(Map<String, String> fields, String name) {
        return fields.getOrDefault(name, "").strip();
    }

    private WebAction find(long id) {
        return actions.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no action " + id + "."));
    }
}
