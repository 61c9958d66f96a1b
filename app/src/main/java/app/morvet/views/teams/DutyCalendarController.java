package app.morvet.views.teams;

import app.morvet.core.duty.DutyCalendar;
import app.morvet.core.duty.Rota;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Map;
import java.util.stream.Collectors;
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

/** Who covers and who is away, taken over from a calendar that is kept elsewhere: shown first, then put down. */
@Controller
class DutyCalendarController {
    private static final Duration AHEAD = Duration.ofDays(183);

    private final Rotas rotas;
    private final Estate estate;
    private final Times times;

    DutyCalendarController(Rotas rotas, Estate estate, Times times) {
        this.rotas = rotas;
        this.estate = estate;
        this.times = times;
    }

    /** @param known whether it is said already */
    record Row(String words, String span, boolean known) {}

    private Estate.Team team(String key) {
        return estate.team(key)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no team " + key + "."));
    }

    @GetMapping("/estate/teams/{key}/duty/calendar")
    String page(@PathVariable String key, Model model) {
        return page(team(key), "", model);
    }

    private static String page(Estate.Team team, String text, Model model) {
        model.addAttribute("team", team);
        model.addAttribute("text", text);
        return "team-calendar";
    }

    @PostMapping("/estate/teams/{key}/duty/calendar")
    String preview(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            HttpServletResponse response,
            Model model)
            throws IOException {
        var team = team(key);
        var whole = Files.text(text, upload);
        try {
            var names = names(team);
            var read = read(team, whole, names);
            var known = rotas.of(team.id()).rota().changes();
            model.addAttribute(
                    "rows",
                    read.changes().stream()
                            .map(one -> row(one, names, known.contains(one)))
                            .toList());
            model.addAttribute("leftOut", read.leftOut());
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
        }
        return page(team, whole, model);
    }

    private Map<Long, String> names(Estate.Team team) {
        return rotas.members(team.id()).stream()
                .collect(Collectors.toMap(
                        one -> one.person().id(), one -> one.person().name()));
    }

    private DutyCalendar.Read read(Estate.Team team, String text, Map<Long, String> names) {
        var now = times.now();
        return DutyCalendar.read(text, rotas.of(team.id()).rota().zone(), names, now, now.plus(AHEAD));
    }

    private Row row(Rota.Change change, Map<Long, String> names, boolean known) {
        var words =
                switch (change) {
                    case Rota.Change.Away one -> names.get(one.person()) + " is away";
                    case Rota.Change.Covers one -> names.get(one.person()) + " covers the " + Rotas.line(one.line());
                };
        return new Row(words, times.span(change.from(), change.to()), known);
    }

    @PostMapping("/estate/teams/{key}/duty/calendar/apply")
    String apply(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String text,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var team = team(key);
        try {
            rotas.say(team.id(), read(team, text, names(team)).changes(), by);
            return "redirect:/estate/teams/" + key;
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
            return page(team, text, model);
        }
    }
}
