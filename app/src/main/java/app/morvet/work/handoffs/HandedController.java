package app.morvet.work.handoffs;

import app.morvet.core.handoff.HandoffState;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseFacts;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
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

/** What is handed to the teams of whoever looks: seen, noted on, accepted, returned, finished; and nothing else of Morvet's. */
@Controller
class HandedController {
    private static final Duration DONE_SHOWN = Duration.ofDays(14);

    record Row(String id, String mark, String title, String team, String ticket, String state, String since) {}

    record LogRow(String at, String who, String words) {}

    private final HandoffStore store;
    private final HandoffDesk handoffs;
    private final CaseBook cases;
    private final CaseFacts facts;
    private final Rotas rotas;
    private final Estate estate;
    private final People people;
    private final Times times;

    HandedController(
            HandoffStore store,
            HandoffDesk handoffs,
            CaseBook cases,
            CaseFacts facts,
            Rotas rotas,
            Estate estate,
            People people,
            Times times) {
        this.store = store;
        this.handoffs = handoffs;
        this.cases = cases;
        this.facts = facts;
        this.rotas = rotas;
        this.estate = estate;
        this.people = people;
        this.times = times;
    }

    @GetMapping("/handed")
    String list(@AuthenticationPrincipal Person by, Model model) {
        var teams = rotas.teamsOf(by.id());
        var all = store.ofTeams(teams, times.now().minus(DONE_SHOWN));
        model.addAttribute("who", by.name());
        model.addAttribute("zone", times.zoneName());
        model.addAttribute("teams", teams.stream().map(this::team).toList());
        model.addAttribute("open", rows(all, true));
        model.addAttribute("done", rows(all, false));
        return "handed";
    }

    private String team(long id) {
        return estate.team(id).map(Estate.Team::name).orElse("");
    }

    private List<Row> rows(List<Handoff> all, boolean open) {
        var about = cases.find(all.stream().map(Handoff::caseId).toList());
        return all.stream()
                .filter(one -> isOpen(one) == open)
                .map(one -> new Row(
                        one.id().toString(),
                        Optional.ofNullable(about.get(one.caseId()))
                                .filter(it -> !it.settled() && it.overSince() == null)
                                .map(it -> it.severity().word())
                                .orElse("steady"),
                        one.title(),
                        team(one.team()),
                        one.ticket(),
                        one.state().words(),
                        times.of(one.changedAt())))
                .toList();
    }

    private static boolean isOpen(Handoff one) {
        return one.state() == HandoffState.QUEUED || one.state().followed();
    }

    @GetMapping("/handed/{id}")
    String one(@PathVariable UUID id, @AuthenticationPrincipal Person by, Model model) {
        return page(mine(id, by), by, null, "", model);
    }

    /** Whether there is one of another team is not told. */
    private Handoff mine(UUID id, Person by) {
        return store.byId(id)
                .filter(one -> rotas.teamsOf(by.id()).contains(one.team()))
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "Nothing like this is handed to your team."));
    }

    private String page(Handoff one, Person by, @Nullable String refusal, String typed, Model model) {
        var about = cases.find(one.caseId()).orElseThrow();
        var names = people.names();
        model.addAttribute("who", by.name());
        model.addAttribute("zone", times.zoneName());
        model.addAttribute("one", one);
        model.addAttribute("team", team(one.team()));
        model.addAttribute("about", about);
        model.addAttribute("component", estate.component(about.component()).name());
        model.addAttribute("mark", about.severity().word());
        model.addAttribute("over", about.settled() || about.overSince() != null);
        model.addAttribute("facts", facts.of(about, times::exact));
        model.addAttribute("state", one.state().words());
        model.addAttribute("accepts", one.state() == HandoffState.SENT);
        model.addAttribute("says", one.state().followed());
        model.addAttribute("refusal", refusal);
        model.addAttribute("typed", typed);
        model.addAttribute(
                "log",
                cases.logged(about.id()).stream()
                        .map(it -> new LogRow(
                                times.of(it.at()),
                                it.who() == null ? "Morvet" : names.getOrDefault(it.who(), "somebody"),
                                it.words()))
                        .toList());
        return "handed-one";
    }

    @PostMapping("/handed/{id}")
    String say(
            @PathVariable UUID id,
            @RequestParam(defaultValue = "") String act,
            @RequestParam(defaultValue = "") String words,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var one = mine(id, by);
        var now = times.now();
        try {
            switch (act) {
                case "note" -> cases.note(one.caseId(), by, words, now);
                case "accept" -> handoffs.say(id, HandoffState.ACCEPTED, "", by, now);
                case "return" -> handoffs.say(id, HandoffState.RETURNED, words, by, now);
                case "finish" -> handoffs.say(id, HandoffState.DONE, "", by, now);
                default -> throw new IllegalArgumentException("say what you do");
            }
            return "redirect:/handed/" + id;
        } catch (IllegalArgumentException refused) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(store.byId(id).orElseThrow(), by, Sentence.of(refused), words, model);
        }
    }
}
