package app.morvet.views.windows;

import app.morvet.alerting.windows.CalendarRules.Meaning;
import app.morvet.alerting.windows.CalendarRules.Rule;
import app.morvet.alerting.windows.OutsideCalendars;
import app.morvet.alerting.windows.OutsideCalendars.Event;
import app.morvet.core.guard.Spans;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
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
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.server.ResponseStatusException;

/** Calendars of others: where they are read, by which rules their events become windows, and what waits for somebody to say. */
@Controller
class CalendarsController {
    private static final int SHOWN = 300;
    private static final List<MaintenanceWindow.Effect> EFFECTS =
            List.of(MaintenanceWindow.Effect.HOLD, MaintenanceWindow.Effect.PAUSE);

    record CalendarRow(
            long id, String name, String from, String looked, List<String> faults, long waits, long windows) {}

    record EventRow(
            long calendar,
            String uid,
            String title,
            String text,
            String next,
            String state,
            @Nullable Long window,
            boolean open) {}

    private final OutsideCalendars calendars;
    private final Connections connections;
    private final Scopes scopes;
    private final Estate estate;
    private final Times times;

    CalendarsController(
            OutsideCalendars calendars, Connections connections, Scopes scopes, Estate estate, Times times) {
        this.calendars = calendars;
        this.connections = connections;
        this.scopes = scopes;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/windows/calendars")
    String list(Model model) {
        var counts = calendars.counts();
        var rows = new ArrayList<CalendarRow>();
        for (var one : calendars.all()) {
            var look = calendars.look(one.id());
            var states = counts.getOrDefault(one.id(), Map.of());
            rows.add(new CalendarRow(
                    one.id(),
                    one.name(),
                    one.url().isEmpty() ? "a file" : one.url(),
                    look.map(it -> times.ago(it.at())).orElse("never"),
                    look.map(OutsideCalendars.Look::faults).orElse(List.of()),
                    states.getOrDefault(OutsideCalendars.State.WAITS, 0L),
                    states.getOrDefault(OutsideCalendars.State.WINDOW, 0L)));
        }
        model.addAttribute("calendars", rows);
        model.addAttribute(
                "waiting", calendars.waiting(SHOWN).stream().map(this::row).toList());
        return "calendars-read";
    }

    private EventRow row(Event one) {
        var next = one.plan().next(times.now(), 1);
        return new EventRow(
                one.calendar(),
                one.uid(),
                one.title(),
                one.text(),
                next.isEmpty()
                        ? "over"
                        : times.span(
                                        next.getFirst().span().from(),
                                        next.getFirst().span().to())
                                + (one.plan().recurs() ? ", and again" : ""),
                one.state().words(),
                one.window(),
                one.state() == OutsideCalendars.State.WAITS || one.state() == OutsideCalendars.State.LEFT_OUT);
    }

    @GetMapping("/windows/calendars/{id}")
    String one(@PathVariable String id, Model model) {
        var one = id.equals("new")
                ? new Connection(
                        0, OutsideCalendars.SORT, "", null, "", "", "", "", Map.of(OutsideCalendars.EVERY, "900"), 0)
                : find(id).covered();
        return page(one, null, Map.of(), Map.of(), model);
    }

    private String page(
            Connection one,
            @Nullable String refusal,
            Map<String, String> errors,
            Map<String, String> sent,
            Model model) {
        model.addAttribute("one", one);
        model.addAttribute("refusal", refusal);
        model.addAttribute("errors", errors);
        model.addAttribute("sent", sent);
        model.addAttribute("effects", EFFECTS);
        scopes.fill(ScopeForm.typed(sent::get), model);
        if (one.id() != 0) {
            model.addAttribute(
                    "rules",
                    calendars.rules(one).stream()
                            .map(it -> "When its text has \"%s\", %s."
                                    .formatted(it.words(), it.meaning().words(estate::nameOf)))
                            .map(it -> it.replace("When its text has \"\", ", "Of all else, "))
                            .toList());
            model.addAttribute(
                    "events",
                    calendars.events(one.id()).stream()
                            .map(this::row)
                            .sorted(Comparator.comparing((EventRow it) -> !it.open())
                                    .thenComparing(it -> it.next().equals("over")))
                            .limit(SHOWN)
                            .toList());
            var look = calendars.look(one.id());
            model.addAttribute("look", look.orElse(null));
            model.addAttribute("looked", look.map(it -> times.of(it.at())).orElse("never"));
        }
        return "calendar-read";
    }

    private Connection find(String id) {
        return (id.matches("\\d{1,18}") ? calendars.find(Long.parseLong(id)) : java.util.Optional.<Connection>empty())
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no calendar " + id + "."));
    }

    @PostMapping("/windows/calendars/{id}")
    String save(
            @PathVariable String id,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var before = id.equals("new") ? null : find(id);
        var name = given(sent, "name");
        var settings = new LinkedHashMap<>(before == null ? Map.<String, String>of() : before.settings());
        settings.put(OutsideCalendars.EVERY, given(sent, OutsideCalendars.EVERY));
        var typed = new Connection(
                before == null ? 0 : before.id(),
                OutsideCalendars.SORT,
                before == null ? name : before.key(),
                null,
                name,
                given(sent, "url"),
                given(sent, "headers"),
                "",
                settings,
                before == null ? 0 : whole(given(sent, "version")));
        try {
            if (name.isEmpty() || name.length() > 100)
                throw new IllegalArgumentException("a calendar has a name of at most 100 letters");
            int every = whole(given(sent, OutsideCalendars.EVERY));
            if (every < 60 || every > 86_400)
                throw new IllegalArgumentException("it is fetched every 60 to 86400 seconds");
            if (before == null && connections.byKey(OutsideCalendars.SORT, name).isPresent())
                throw new IllegalArgumentException("there is a calendar of that name already");
            var errors = typed.url().isEmpty()
                    ? Map.<String, String>of()
                    : connections.errors(before == null ? typed : typed.keeping(before));
            if (errors.isEmpty()) return "redirect:/windows/calendars/" + calendars.keep(typed, by);
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(typed, null, errors, Map.of(), model);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(typed, Sentence.of(wrong), Map.of(), Map.of(), model);
        }
    }

    private interface Act {
        String on(Connection one) throws IOException;
    }

    private String act(String id, Act act, Map<String, String> sent, HttpServletResponse response, Model model) {
        var one = find(id);
        String refusal;
        try {
            return act.on(one);
        } catch (IllegalArgumentException wrong) {
            refusal = Sentence.of(wrong);
        } catch (IOException broken) {
            refusal = "The file could not be read.";
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(find(id).covered(), refusal, Map.of(), sent, model);
    }

    /** Puts a rule at the end of the others, where it looks at what they left. */
    @PostMapping("/windows/calendars/{id}/rules")
    String addRule(
            @PathVariable String id,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                one -> {
                    var rules = calendars.rules(one);
                    rules.add(new Rule(given(sent, "words"), meaning(sent)));
                    calendars.rules(one.id(), whole(given(sent, "version")), rules, by);
                    return "redirect:/windows/calendars/" + id;
                },
                sent,
                response,
                model);
    }

    @PostMapping("/windows/calendars/{id}/rules/{place:\\d{1,3}}")
    String changeRule(
            @PathVariable String id,
            @PathVariable int place,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                one -> {
                    var rules = calendars.rules(one);
                    if (place >= rules.size()) throw new IllegalArgumentException("there is no such rule any more");
                    var rule = rules.remove(place);
                    if (sent.containsKey("up")) rules.add(Math.max(0, place - 1), rule);
                    calendars.rules(one.id(), whole(given(sent, "version")), rules, by);
                    return "redirect:/windows/calendars/" + id;
                },
                Map.of(),
                response,
                model);
    }

    private static Meaning meaning(Map<String, String> sent) {
        var effect = EFFECTS.stream()
                .filter(one -> one.name().equals(given(sent, "effect")))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("say what becomes of alerts inside"));
        return new Meaning(ScopeForm.read(sent::get), effect, Spans.readOrNone(given(sent, "told")));
    }

    /** What it holds from now on, where it is not fetched. */
    @PostMapping("/windows/calendars/{id}/file")
    String file(
            @PathVariable String id,
            @RequestParam(required = false) @Nullable MultipartFile file,
            @RequestParam(defaultValue = "") String text,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                one -> {
                    var given =
                            file == null || file.isEmpty() ? text : new String(file.getBytes(), StandardCharsets.UTF_8);
                    if (given.isBlank()) throw new IllegalArgumentException("choose a file, or paste its text");
                    calendars.take(one, given);
                    return "redirect:/windows/calendars/" + id;
                },
                Map.of(),
                response,
                model);
    }

    @GetMapping("/windows/calendars/{id}/event")
    String event(@PathVariable String id, @RequestParam String uid, Model model) {
        return assign(find(id), uid, Map.of(), null, model);
    }

    private String assign(Connection one, String uid, Map<String, String> sent, @Nullable String refusal, Model model) {
        var event = calendars.events(one.id()).stream()
                .filter(it -> it.uid().equals(uid))
                .findFirst()
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such event in this calendar."));
        model.addAttribute("one", one);
        model.addAttribute("event", row(event));
        model.addAttribute("sent", sent);
        model.addAttribute("refusal", refusal);
        model.addAttribute("effects", EFFECTS);
        scopes.fill(ScopeForm.typed(sent::get), model);
        return "calendar-event";
    }

    @PostMapping("/windows/calendars/{id}/event")
    String decide(
            @PathVariable String id,
            @RequestParam String uid,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var one = find(id);
        try {
            if (sent.containsKey("leaveOut")) {
                calendars.leaveOut(one.id(), uid, by);
                return "redirect:/windows/calendars";
            }
            return "redirect:/windows/" + calendars.assign(one.id(), uid, meaning(sent), by);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return assign(one, uid, sent, Sentence.of(wrong), model);
        }
    }

    private static int whole(String text) {
        return text.matches("\\d{1,9}") ? Integer.parseInt(text) : 0;
    }

    private static String given(Map<String, String> sent, String name) {
        return sent.getOrDefault(name, "").strip();
    }
}
