package app.morvet.views.shift;

import app.morvet.core.shift.Turns;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.NewSince;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.OpenTrouble;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** The first place: the estate at a look, and beside it what is open, what is coming, and what is new. */
@Controller
class ShiftController {
    private static final Duration AHEAD = Duration.ofHours(8);
    private static final int COMING = 12;
    /** The cookie that keeps which team was chosen. */
    private static final String TEAM = "shift-team";

    /** @param mark relief mark */
    record Ahead(String at, String mark, String words, String link) {}

    /** @param taken by whom and when; empty while it waits for whoever takes over */
    record Given(long id, String by, String at, String taken) {}

    /** Who took over last, and since when things are new to the reader. */
    record Turn(String who, String since, boolean own, String newSince) {}

    private final EstateLook estate;
    private final OpenWork work;
    private final CaseBook cases;
    private final ShiftTurns turns;
    private final ShiftNotes notes;
    private final ShiftPlans plans;
    private final Handovers handovers;
    private final List<Coming> coming;
    private final List<NewSince> news;
    private final Estate known;
    private final People people;
    private final Live live;
    private final Times times;

    ShiftController(
            EstateLook estate,
            OpenWork work,
            CaseBook cases,
            ShiftTurns turns,
            ShiftNotes notes,
            ShiftPlans plans,
            Handovers handovers,
            List<Coming> coming,
            List<NewSince> news,
            Estate known,
            People people,
            Live live,
            Times times) {
        this.estate = estate;
        this.work = work;
        this.cases = cases;
        this.turns = turns;
        this.notes = notes;
        this.plans = plans;
        this.handovers = handovers;
        this.coming = coming;
        this.news = news;
        this.known = known;
        this.people = people;
        this.live = live;
        this.times = times;
    }

    /** @param asked of which team; where nothing is said, of the one that was chosen last in this browser */
    @GetMapping("/shift")
    String shift(
            @RequestParam(defaultValue = "") String only,
            @RequestParam(name = "team", required = false) @Nullable String asked,
            @CookieValue(name = TEAM, defaultValue = "") String chosen,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            @RequestHeader(name = "HX-Trigger", required = false) @Nullable String trigger,
            @AuthenticationPrincipal Person reader,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        var before = chosen.matches("\\d{1,18}") ? known.team(Long.parseLong(chosen)) : Optional.<Estate.Team>empty();
        var team = asked != null ? asked : before.map(Estate.Team::key).orElse("");
        // A page that fetches itself anew is nobody's choice.
        boolean chooses = target == null || "shift-team".equals(trigger);
        if (asked != null && chooses) keep(known.team(asked), before, request.isSecure(), response);
        model.addAttribute("only", only);
        model.addAttribute("team", team);
        var open = cases.openTrouble();
        if (!"shift-side".equals(target)) fillEstate(only, team, open, model);
        if ("shift-estate".equals(target)) return "shift-parts :: estate";
        fillSide(reader, open, model);
        return "shift-side".equals(target) ? "shift-parts :: side" : "shift";
    }

    /** The applications that need eyes and are not among the first; fetched when somebody asks for them. */
    @GetMapping("/shift/rest")
    String rest(
            @RequestParam(defaultValue = "") String only, @RequestParam(defaultValue = "") String team, Model model) {
        model.addAttribute("only", only);
        model.addAttribute("team", team);
        model.addAttribute("look", estate.look(only, team, cases.openTrouble()));
        return "shift-parts :: rest";
    }

    /** The applications on which nothing is wrong; fetched when somebody wants to see them, since there may be hundreds. */
    @GetMapping("/shift/quiet")
    String quiet(@RequestParam(defaultValue = "") String team, Model model) {
        model.addAttribute("team", team);
        model.addAttribute("look", estate.look("", team, cases.openTrouble()));
        return "shift-parts :: quiet";
    }

    /** What is no team is forgotten, as all are. */
    private static void keep(
            Optional<Estate.Team> team, Optional<Estate.Team> before, boolean secure, HttpServletResponse response) {
        if (team.equals(before)) return;
        var cookie = ResponseCookie.from(TEAM, team.map(it -> "" + it.id()).orElse(""))
                .path("/shift")
                .maxAge(team.isEmpty() ? Duration.ZERO : Duration.ofDays(400))
                .sameSite("Lax")
                .httpOnly(true)
                .secure(secure)
                .build();
        response.addHeader(HttpHeaders.SET_COOKIE, cookie.toString());
    }

    private void fillEstate(String only, String team, OpenTrouble open, Model model) {
        model.addAttribute("look", estate.look(only, team, open));
        model.addAttribute(
                "teams",
                known.teams().stream()
                        .sorted(Comparator.comparing(Estate.Team::name))
                        .toList());
    }

    private void fillSide(Person reader, OpenTrouble open, Model model) {
        var now = times.now();
        var taken = turns.latest(now);
        var last = taken.isEmpty() ? null : taken.getLast();
        var since = Turns.newSince(taken, reader.id(), now);
        model.addAttribute("work", work.of(reader, open));
        model.addAttribute(
                "coming",
                coming.stream()
                        .flatMap(one -> one.coming(now, now.plus(AHEAD)).stream())
                        .sorted(Comparator.comparing(Coming.Item::at))
                        .limit(COMING)
                        .map(one -> new Ahead(times.of(one.at()), one.mark(), one.words(), one.link()))
                        .toList());
        long named = notes.naming(reader.login(), since);
        model.addAttribute(
                "news",
                Stream.concat(
                                named == 0
                                        ? Stream.empty()
                                        : Stream.of(new NewSince.Line(
                                                NewSince.words(named, "note names you", "notes name you"),
                                                "/shift/log?words=@" + reader.login())),
                                news.stream().flatMap(one -> one.since(since).stream()))
                        .toList());
        model.addAttribute("shiftOn", plans.words());
        var waiting = handovers.waiting().or(handovers::taken);
        model.addAttribute(
                "handover",
                waiting.map(one -> new Given(
                                one.id(),
                                one.by(),
                                times.of(one.at()),
                                one.taken() == null ? "" : one.takenBy() + ", " + times.of(one.taken())))
                        .orElse(null));
        model.addAttribute(
                "turn",
                new Turn(
                        last == null ? "" : people.names().getOrDefault(last.person(), "somebody"),
                        last == null ? "" : times.of(last.at()),
                        last != null && last.person() == reader.id(),
                        times.of(since)));
    }

    /** The reader has the shift from now on. */
    @PostMapping("/shift/taken")
    String take(@AuthenticationPrincipal Person by) {
        handovers.take(by.id(), times.now());
        live.changed(ShiftNotes.TOPIC);
        return "redirect:/shift";
    }
}
