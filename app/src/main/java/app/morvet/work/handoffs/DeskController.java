package app.morvet.work.handoffs;

import app.morvet.core.handoff.TicketTemplate;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Connections;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeSet;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PostMapping;

/** Setup: how the ticket desk is talked to. */
@Controller
class DeskController {
    static final DeskConnection EMPTY = new DeskConnection(
            0,
            "desk",
            "Ticket desk",
            "http://",
            "/api/tickets",
            "/api/tickets/{{ticket}}",
            "",
            """
            {
              "title": "{{title}}",
              "description": "{{story}}",
              "group": "{{teamKey}}",
              "link": "{{link}}"
            }
            """,
            "$.number",
            "$.state",
            "$.reason",
            "open = sent\naccepted = accepted\nreturned = returned\ndone = done",
            "",
            "",
            15,
            0);

    private final Desks desks;
    private final Connections connections;
    private final Audit audit;

    DeskController(Desks desks, Connections connections, Audit audit) {
        this.desks = desks;
        this.connections = connections;
        this.audit = audit;
    }

    @GetMapping("/setup/desk")
    String desk(Model model) {
        return page(
                connections.of(DeskConnection.SORT).stream()
                        .findFirst()
                        .map(one -> DeskConnection.of(one.covered()))
                        .orElse(EMPTY),
                Map.of(),
                model);
    }

    private static String page(DeskConnection desk, Map<String, String> errors, Model model) {
        model.addAttribute("desk", desk);
        model.addAttribute("errors", errors);
        model.addAttribute("variables", new TreeSet<>(TicketWords.VARIABLES));
        return "desk";
    }

    @PostMapping("/setup/desk")
    @Transactional
    public String save(
            @ModelAttribute("desk") DeskConnection typed,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var before = desks.byKey(typed.key());
        var desk = before.map(old -> DeskConnection.of(typed.connection().keeping(old.connection())))
                .orElse(typed);
        var errors = errors(desk);
        if (errors.isEmpty()) {
            if (desks.keep(desk)) {
                audit.record(
                        by,
                        "ticket desk changed",
                        "desk " + desk.key(),
                        before.map(DeskController::describe).orElse(null),
                        describe(desk));
                return "redirect:/setup/desk?saved";
            }
            errors.put(
                    "",
                    "Somebody else changed these settings while you were editing them. Nothing was saved; load the page again to see theirs.");
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, errors, model);
    }

    private Map<String, String> errors(DeskConnection desk) {
        var errors = new LinkedHashMap<String, String>();
        if (desk.name().isBlank()) errors.put("name", "Give the desk a name.");
        if (!desk.key().matches("[a-z0-9-]{1,40}"))
            errors.put("key", "Lower-case letters, digits and hyphens, at most 40.");
        errors.putAll(connections.errors(desk.connection()));
        check(errors, "template", () -> TicketTemplate.parse(desk.template(), TicketWords.VARIABLES));
        check(errors, "states", desk::reading);
        Connections.path("createPath", desk.createPath(), errors);
        if (!desk.readPath().startsWith("/") || !desk.readPath().contains("{{ticket}}"))
            errors.put("readPath", "A path that begins with / and has {{ticket}} in it.");
        if (desk.pollSeconds() < 1 || desk.pollSeconds() > 3600) errors.put("pollSeconds", "1 to 3600 seconds.");
        return errors;
    }

    private static void check(Map<String, String> errors, String field, Runnable check) {
        try {
            check.run();
        } catch (IllegalArgumentException wrong) {
            errors.put(field, String.valueOf(wrong.getMessage()));
        }
    }

    /** Without what is secret. */
    private static String describe(DeskConnection desk) {
        return "%s at %s, create %s, read %s, number %s, state %s, reason %s, every %d s\n%s\n%s"
                .formatted(
                        desk.name(),
                        desk.url(),
                        desk.createPath(),
                        desk.readPath(),
                        desk.numberPath(),
                        desk.statePath(),
                        desk.reasonPath(),
                        desk.pollSeconds(),
                        desk.states(),
                        desk.template());
    }
}
