package app.morvet.views.teams;

import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.duty.TeamHours;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DayOfWeek;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Teams, their rota, and who is on duty: seen by all, covered for by analysts, and set by leads. */
@Controller
class TeamsController {
    record TeamRow(String key, String name, String mail, List<String> duty, int applications, long open, boolean gap) {}

    /** @param until when somebody else is */
    record OnDuty(String line, String name, String phone, String mail, String until, boolean covers) {}

    record TurnsRow(long id, String line, String people, String words) {}

    record ChangeRow(long id, String words) {}

    private final Rotas rotas;
    private final TeamHours hours;
    private final RotaPicture picture;
    private final TeamWork work;
    private final People people;
    private final Estate estate;
    private final Times times;

    TeamsController(
            Rotas rotas,
            TeamHours hours,
            RotaPicture picture,
            TeamWork work,
            People people,
            Estate estate,
            Times times) {
        this.hours = hours;
        this.rotas = rotas;
        this.picture = picture;
        this.work = work;
        this.people = people;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/estate/teams")
    String list(Model model) {
        var now = times.now();
        var open = work.openByTeam();
        var all = rotas.of(estate.teams().stream().map(Estate.Team::id).toList());
        model.addAttribute(
                "teams",
                estate.teams().stream()
                        .map(team -> {
                            var rota = all.get(team.id()).rota();
                            return new TeamRow(
                                    team.key(),
                                    team.name(),
                                    team.mail(),
                                    rotas.lines(rota, now).stream()
                                            .map(Rotas.OnLine::name)
                                            .toList(),
                                    (int) estate.applications().stream()
                                            .filter(one -> one.teamId() == team.id())
                                            .count(),
                                    open.getOrDefault(team.id(), 0L),
                                    isGap(rota, now));
                        })
                        .toList());
        return "teams";
    }

    @PostMapping("/estate/teams")
    String make(
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String mail,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            return "redirect:/estate/teams/" + work.make(name.strip(), mail.strip(), by);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
            model.addAttribute("typed", Map.of("name", name, "mail", mail));
            return list(model);
        }
    }

    private static boolean isGap(Rota rota, Instant now) {
        return !rota.isEmpty() && !rota.gaps(0, now, now.plusSeconds(1)).isEmpty();
    }

    /** As the page says it. */
    private OnDuty onDuty(Rotas.OnLine one, Instant now) {
        var to = one.duty().to();
        return new OnDuty(
                one.line(),
                one.name(),
                one.phone(),
                one.mail(),
                to.isBefore(now.plus(Rotas.AHEAD)) ? "until " + times.of(to) : "",
                one.duty().covers());
    }

    private Estate.Team find(String key) {
        return estate.team(key)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no team " + key + "."));
    }

    @GetMapping("/estate/teams/{key}")
    String one(
            @PathVariable String key,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        return page(key, Map.of(), null, "team-one".equals(target) ? "team-parts :: one" : "team", model);
    }

    private String page(String key, Map<String, String> sent, @Nullable String refusal, String template, Model model) {
        var team = find(key);
        var now = times.now();
        var standing = rotas.of(team.id());
        var rota = standing.rota();
        var members = rotas.members(team.id());
        var names = people.names();
        model.addAttribute("team", team);
        model.addAttribute("refusal", refusal);
        model.addAttribute("sent", typed(sent, standing, members, names, now));
        model.addAttribute("version", standing.version());
        model.addAttribute(
                "duty",
                rotas.lines(rota, now).stream().map(one -> onDuty(one, now)).toList());
        model.addAttribute("drawn", picture.of(rota));
        model.addAttribute(
                "turns",
                standing.turns().stream()
                        .map(one -> new TurnsRow(
                                one.id(),
                                Rotas.line(one.line()),
                                named(one.turns().people(), names),
                                one.turns().words()))
                        .toList());
        model.addAttribute(
                "changes",
                standing.changes().stream()
                        .filter(one -> one.change().to().isAfter(now))
                        .sorted(Comparator.comparing(one -> one.change().from()))
                        .map(one -> new ChangeRow(one.id(), words(one.change(), names)))
                        .toList());
        model.addAttribute("members", members);
        model.addAttribute(
                "others",
                people.cards().stream()
                        .filter(one -> one.active() && !members.contains(one))
                        .map(People.Card::person)
                        .toList());
        model.addAttribute(
                "owns",
                estate.applications().stream()
                        .filter(one -> one.teamId() == team.id())
                        .toList());
        model.addAttribute("callHours", hours.of(team.id()).lines());
        model.addAttribute("open", work.openOf(team.id()));
        model.addAttribute("lines", List.of(Rotas.line(0), Rotas.line(1), Rotas.line(2)));
        model.addAttribute("every", Turns.Every.values());
        return template;
    }

    /** What stands in the form: what was typed, else the last that is agreed, from next Monday on. */
    private Map<String, String> typed(
            Map<String, String> sent,
            Rotas.Standing standing,
            List<People.Card> members,
            Map<Long, String> names,
            Instant now) {
        if (sent.containsKey("people")) return sent;
        var zone = standing.rota().zone();
        var monday = now.atZone(zone).toLocalDate().with(java.time.temporal.TemporalAdjusters.next(DayOfWeek.MONDAY));
        var last =
                standing.turns().isEmpty() ? null : standing.turns().getFirst().turns();
        var people = last == null
                ? String.join(
                        ", ", members.stream().map(one -> one.person().name()).toList())
                : named(last.people(), names);
        var typed = new java.util.HashMap<>(Map.of(
                "line",
                "0",
                "people",
                people,
                "count",
                last == null ? "1" : "" + last.count(),
                "every",
                last == null ? "WEEKS" : last.every().name(),
                "at",
                last == null ? "08:00" : last.at().toString(),
                "from",
                monday.toString(),
                "days",
                "",
                "hoursFrom",
                "08:00",
                "hoursTo",
                "16:00",
                "zone",
                zone.getId()));
        typed.putAll(sent);
        return typed;
    }

    private static String named(List<Long> people, Map<Long, String> names) {
        return String.join(
                ", ",
                people.stream().map(one -> names.getOrDefault(one, "somebody")).toList());
    }

    private String words(Rota.Change change, Map<Long, String> names) {
        var when = times.span(change.from(), change.to());
        return switch (change) {
            case Rota.Change.Away one -> "%s is away, %s".formatted(named(List.of(one.person()), names), when);
            case Rota.Change.Covers one ->
                "%s covers the %s, %s".formatted(named(List.of(one.person()), names), Rotas.line(one.line()), when);
        };
    }

    private interface Act {
        void on(Estate.Team team);
    }

    private String act(String key, Act act, Map<String, String> sent, HttpServletResponse response, Model model) {
        try {
            act.on(find(key));
            return "redirect:/estate/teams/" + key;
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(key, sent, Sentence.of(wrong), "team", model);
        }
    }

    /** What the rota would be, as it is edited: its next four weeks with all gaps. */
    @PostMapping("/estate/teams/{key}/rota/preview")
    String preview(@PathVariable String key, @RequestParam Map<String, String> sent, Model model) {
        var team = find(key);
        try {
            var zone = RotaForm.zone(RotaForm.given(sent, "zone"));
            var standing = rotas.of(team.id());
            int line = RotaForm.whole(RotaForm.given(sent, "line"));
            if (line >= Rota.MOST_LINES) throw new IllegalArgumentException("a rota has at most 3 lines");
            var fresh = RotaForm.turns(sent, rotas.members(team.id()), zone);
            var lines = new ArrayList<List<Turns>>();
            for (int i = 0; i < Math.max(line + 1, standing.rota().lines().size()); i++)
                lines.add(new ArrayList<>(
                        i < standing.rota().lines().size()
                                ? standing.rota().lines().get(i)
                                : List.of()));
            lines.get(line).removeIf(one -> one.from().equals(fresh.from()));
            lines.get(line).add(fresh);
            model.addAttribute(
                    "drawn", picture.of(new Rota(zone, lines, standing.rota().changes())));
            model.addAttribute(
                    "sentence",
                    "%s: %s %s.".formatted(Rotas.line(line), named(fresh.people(), people.names()), fresh.words()));
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("cannot", Sentence.of(wrong));
        }
        return "team-parts :: preview";
    }

    @PostMapping("/estate/teams/{key}/rota")
    String set(
            @PathVariable String key,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                key,
                team -> {
                    var zone = RotaForm.zone(RotaForm.given(sent, "zone"));
                    rotas.set(
                            team.id(),
                            RotaForm.whole(RotaForm.given(sent, "version")),
                            zone,
                            RotaForm.whole(RotaForm.given(sent, "line")),
                            RotaForm.turns(sent, rotas.members(team.id()), zone),
                            by);
                },
                sent,
                response,
                model);
    }

    @PostMapping("/estate/teams/{key}/rota/{turns:\\d{1,18}}/drop")
    String drop(
            @PathVariable String key,
            @PathVariable long turns,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(key, team -> rotas.drop(team.id(), version, turns, by), Map.of(), response, model);
    }

    /** Somebody is away, or covers a line. */
    @PostMapping("/estate/teams/{key}/duty")
    String say(
            @PathVariable String key,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                key,
                team -> {
                    var zone = rotas.of(team.id()).rota().zone();
                    long person = RotaForm.persons(RotaForm.given(sent, "person"), rotas.members(team.id())).stream()
                            .findFirst()
                            .orElseThrow(() -> new IllegalArgumentException("choose who it is"));
                    var from = RotaForm.instant(RotaForm.given(sent, "from"), zone);
                    var to = RotaForm.instant(RotaForm.given(sent, "to"), zone);
                    rotas.say(
                            team.id(),
                            RotaForm.given(sent, "what").equals("away")
                                    ? new Rota.Change.Away(person, from, to)
                                    : new Rota.Change.Covers(
                                            person, RotaForm.whole(RotaForm.given(sent, "what")), from, to),
                            by);
                },
                sent,
                response,
                model);
    }

    @PostMapping("/estate/teams/{key}/duty/{change:\\d{1,18}}/back")
    String takeBack(
            @PathVariable String key,
            @PathVariable long change,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(key, team -> rotas.takeBack(team.id(), change, by), Map.of(), response, model);
    }

    @PostMapping("/estate/teams/{key}/members")
    String join(
            @PathVariable String key,
            @RequestParam(defaultValue = "0") long person,
            @RequestParam(defaultValue = "false") boolean leave,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                key,
                team -> {
                    if (leave) rotas.leave(team.id(), person, by);
                    else rotas.join(team.id(), person, by);
                },
                Map.of(),
                response,
                model);
    }

    @PostMapping("/estate/teams/{key}")
    String change(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String mail,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                key,
                team -> work.change(Objects.requireNonNull(team), name.strip(), mail.strip(), by),
                Map.of(),
                response,
                model);
    }
}
