package app.morvet.views.teams;

import app.morvet.core.duty.CallHours;
import app.morvet.core.estate.Tier;
import app.morvet.core.guard.Hours;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.duty.TeamHours;
import app.morvet.ground.estate.Estate;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DayOfWeek;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
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

/** In which hours a team may be called for what tier. */
@Controller
class CallHoursController {
    private static final List<Tier> TIERS =
            IntStream.rangeClosed(1, 4).mapToObj(Tier::new).toList();

    /** @param days as {@link RotaForm#hours} reads them; empty is at any time */
    record Row(int tier, String days, String from, String to) {}

    private final TeamHours hours;
    private final Rotas rotas;
    private final Estate estate;

    CallHoursController(TeamHours hours, Rotas rotas, Estate estate) {
        this.hours = hours;
        this.rotas = rotas;
        this.estate = estate;
    }

    private Estate.Team find(String key) {
        return estate.team(key)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no team " + key + "."));
    }

    @GetMapping("/estate/teams/{key}/hours")
    String page(@PathVariable String key, Model model) {
        var team = find(key);
        var kept = hours.of(team.id());
        return page(
                team,
                TIERS.stream().map(tier -> row(tier, kept.byTier().get(tier))).toList(),
                model);
    }

    private String page(Estate.Team team, List<Row> rows, Model model) {
        model.addAttribute("team", team);
        model.addAttribute("zone", rotas.of(team.id()).rota().zone().getId());
        model.addAttribute("seen", hours.of(team.id()).toString());
        model.addAttribute("rows", rows);
        return "team-hours";
    }

    private static Row row(Tier tier, @Nullable Hours hours) {
        if (hours == null) return new Row(tier.number(), "", "08:00", "16:00");
        var days = hours.days().size() == DayOfWeek.values().length
                ? "daily"
                : hours.days().contains(DayOfWeek.SUNDAY) ? "weekends" : "weekdays";
        return new Row(tier.number(), days, hours.from().toString(), hours.to().toString());
    }

    @PostMapping("/estate/teams/{key}/hours")
    String set(
            @PathVariable String key,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var team = find(key);
        try {
            var zone = rotas.of(team.id()).rota().zone();
            var byTier = new HashMap<Tier, Hours>();
            for (var tier : TIERS) {
                var read = RotaForm.hours(of(sent, tier), zone);
                if (read != null) byTier.put(tier, read);
            }
            hours.set(team.id(), team.name(), RotaForm.given(sent, "seen"), new CallHours(byTier), by);
            return "redirect:/estate/teams/" + key;
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
            var typed = TIERS.stream()
                    .map(tier -> {
                        var one = of(sent, tier);
                        return new Row(
                                tier.number(),
                                RotaForm.given(one, "days"),
                                RotaForm.given(one, "hoursFrom"),
                                RotaForm.given(one, "hoursTo"));
                    })
                    .toList();
            return page(team, typed, model);
        }
    }

    /** What was sent of one tier: {@code days2} is the days of tier 2. */
    private static Map<String, String> of(Map<String, String> sent, Tier tier) {
        var one = new HashMap<String, String>();
        for (var name : List.of("days", "hoursFrom", "hoursTo"))
            one.put(name, sent.getOrDefault(name + tier.number(), ""));
        return one;
    }
}
