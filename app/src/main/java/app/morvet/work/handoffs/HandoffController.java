package app.morvet.work.handoffs;

import app.morvet.core.handoff.HandoffState;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.OwnFigure;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.Masks;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseFacts;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.Overtaken;
import app.morvet.work.cases.WorkCase;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
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

/** The Handoffs place, the form that hands a case off, and the tickets in a case's dossier. */
@Controller
class HandoffController implements DossierPart, NowSource, OwnFigure {
    private static final int MOST_LOST = 100;
    private static final int PAGE = 50;

    /** @param trouble why it is not on its way, and when it is tried next; empty when all is well */
    record Row(
            String id,
            long caseId,
            String title,
            String team,
            String state,
            String mark,
            String ticket,
            String ticketLink,
            String made,
            String by,
            String changed,
            String reason,
            String trouble,
            boolean canSend,
            List<AttemptRow> attempts) {}

    record AttemptRow(String at, boolean delivered, String words) {}

    record SampleRow(String at, String businessKey, String step, String error) {}

    record Form(
            long caseId,
            int version,
            String headline,
            long team,
            String title,
            String story,
            String facts,
            List<SampleRow> samples) {}

    private final HandoffStore store;
    private final Desks desks;
    private final HandoffDesk handoffs;
    private final TicketWords words;
    private final CaseBook cases;
    private final CaseFacts facts;
    private final Estate estate;
    private final Masks masks;
    private final CaseOwners owners;
    private final People people;
    private final Times times;

    HandoffController(
            HandoffStore store,
            Desks desks,
            HandoffDesk handoffs,
            TicketWords words,
            CaseBook cases,
            CaseFacts facts,
            Estate estate,
            Masks masks,
            CaseOwners owners,
            People people,
            Times times) {
        this.store = store;
        this.desks = desks;
        this.handoffs = handoffs;
        this.words = words;
        this.cases = cases;
        this.facts = facts;
        this.estate = estate;
        this.masks = masks;
        this.owners = owners;
        this.people = people;
        this.times = times;
    }

    @GetMapping("/handoffs")
    String list(
            @RequestParam(defaultValue = "") String show,
            @RequestParam(defaultValue = "0") int from,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var states =
                switch (show) {
                    case "waiting" -> List.of(HandoffState.QUEUED, HandoffState.GIVEN_UP);
                    case "returned" -> List.of(HandoffState.RETURNED);
                    case "done" -> List.of(HandoffState.DONE);
                    default ->
                        List.of(HandoffState.QUEUED, HandoffState.GIVEN_UP, HandoffState.SENT, HandoffState.ACCEPTED);
                };
        model.addAttribute("show", show);
        int start = Math.max(0, from);
        var page = store.inState(states, start, PAGE + 1);
        model.addAttribute("from", start);
        model.addAttribute("newer", start == 0 ? -1 : Math.max(0, start - PAGE));
        model.addAttribute("older", page.size() > PAGE ? start + PAGE : -1);
        model.addAttribute("rows", rows(page.stream().limit(PAGE).toList(), false));
        return "handoff-rows".equals(target) ? "handoff-parts :: rows" : "handoffs";
    }

    /** What all rows have in common is asked for once. */
    private List<Row> rows(List<Handoff> some, boolean withAttempts) {
        var byId = desks.all().stream().collect(Collectors.toMap(DeskConnection::id, Function.identity()));
        var names = people.names();
        return some.stream()
                .map(one -> row(
                        one,
                        Objects.requireNonNull(byId.get(one.connection())),
                        one.madeBy() == null ? "a rule" : names.getOrDefault(one.madeBy(), ""),
                        withAttempts))
                .toList();
    }

    private Row row(Handoff one, DeskConnection desk, String by, boolean withAttempts) {
        boolean waiting = one.state() == HandoffState.QUEUED || one.state() == HandoffState.GIVEN_UP;
        return new Row(
                one.id().toString(),
                one.caseId(),
                one.title(),
                estate.team(one.team()).map(Estate.Team::name).orElse(""),
                one.state().words(),
                mark(one),
                one.ticket(),
                desk.page(one.ticket()),
                times.of(one.madeAt()),
                by,
                times.of(one.changedAt()),
                one.reason(),
                trouble(one),
                waiting && one.failures() > 0,
                withAttempts
                        ? store.attempts(one.id()).stream()
                                .map(it -> new AttemptRow(times.of(it.at()), it.delivered(), it.words()))
                                .toList()
                        : List.of());
    }

    private static String mark(Handoff one) {
        return switch (one.state()) {
            case GIVEN_UP -> "critical";
            case RETURNED -> "warning";
            case QUEUED -> one.failures() > 0 ? "warning" : "notice";
            case SENT -> one.failures() > 0 ? "nodata" : "notice";
            case ACCEPTED -> one.failures() > 0 ? "nodata" : "steady";
            case DONE -> "steady";
        };
    }

    private String trouble(Handoff one) {
        if (one.failures() == 0 || one.lastError().isEmpty()) return "";
        var tries = one.failures() + (one.failures() == 1 ? " try" : " tries") + " failed: " + one.lastError();
        return one.nextTry() == null
                ? tries
                : tries + ". Next try " + times.exact(one.nextTry()).substring(11) + ".";
    }

    @Override
    public String liveTopic() {
        return "handoffs";
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var rows = rows(store.ofCase(shown.id()), true);
        return rows.isEmpty() ? Optional.empty() : Optional.of(new Part("handoff-parts :: dossierPart", rows));
    }

    @Override
    public List<Figure> figures() {
        return List.of(new Figure(
                "morvet_deliveries_given_up",
                "",
                "What could not be delivered and was given up.",
                Map.of("of", "handoffs"),
                false,
                store.count(HandoffState.GIVEN_UP, false)));
    }

    @Override
    public List<NowItem> now() {
        var items = new ArrayList<NowItem>();
        long waiting = store.count(HandoffState.QUEUED, true);
        if (waiting > 0)
            items.add(new NowItem(
                    "warning",
                    waiting + (waiting == 1 ? " handoff waiting" : " handoffs waiting"),
                    "/handoffs?show=waiting"));
        // Of a case that is settled nobody needs to hear any more.
        long lost = store.inState(List.of(HandoffState.GIVEN_UP), 0, MOST_LOST).stream()
                .filter(one ->
                        cases.find(one.caseId()).filter(its -> !its.settled()).isPresent())
                .count();
        if (lost > 0)
            items.add(new NowItem(
                    "critical",
                    lost + (lost == 1 ? " handoff not delivered" : " handoffs not delivered"),
                    "/handoffs?show=waiting"));
        return items;
    }

    @GetMapping("/cases/{id}/handoff")
    String form(
            @PathVariable long id,
            @RequestHeader(name = "HX-Request", required = false) @Nullable String htmx,
            Model model) {
        var one = find(id);
        long owner = owners.of(one).map(Estate.Team::id).orElse(0L);
        fill(form(one, one.version(), owner, one.headline(), words.story(one)), Map.of(), model);
        return htmx == null ? "handoff" : "handoff-parts :: form";
    }

    private Form form(WorkCase one, int version, long team, String title, String story) {
        var samples = words.samples(one).stream()
                .map(sample -> new SampleRow(
                        times.exact(sample.line().at()),
                        masks.on(sample.line().component())
                                .text(sample.line().businessKey())
                                .text(),
                        masks.on(sample.line().component())
                                .text(sample.line().step())
                                .text(),
                        masks.on(sample.line().component())
                                .text(sample.line().firstLine())
                                .text()))
                .toList();
        return new Form(
                one.id(),
                version,
                one.headline(),
                team,
                title,
                story,
                CaseFacts.line(facts.of(one, times::exact)),
                samples);
    }

    private void fill(Form form, Map<String, String> errors, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("errors", errors);
        model.addAttribute("teams", estate.teams());
        model.addAttribute(
                "desk",
                desks.all().stream().findFirst().map(DeskConnection::name).orElse(""));
    }

    @PostMapping("/cases/{id}/handoff")
    String handOff(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam(defaultValue = "0") long team,
            @RequestParam(defaultValue = "") String title,
            @RequestParam(defaultValue = "") String story,
            @RequestHeader(name = "HX-Request", required = false) @Nullable String htmx,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var one = find(id);
        var errors = new LinkedHashMap<String, String>();
        var receiver = estate.team(team);
        if (receiver.isEmpty()) errors.put("team", "Choose the team that owns this.");
        if (title.isBlank()) errors.put("title", "A ticket needs a title.");
        if (title.length() > 250) errors.put("title", "At most 250 characters, these are " + title.length() + ".");
        if (story.isBlank()) errors.put("story", "Say what happened.");
        if (story.length() > 20_000)
            errors.put("story", "At most 20,000 characters, these are " + story.length() + ".");
        if (errors.isEmpty()) {
            try {
                handoffs.handOff(one, version, receiver.orElseThrow(), title.strip(), story.strip(), by);
                if (htmx == null) return "redirect:/cases/" + id;
                // The dossier stays as it is; its parts fetch themselves, so what is begun meanwhile is not swept away.
                response.setHeader("HX-Trigger", "handed-off");
                response.setStatus(HttpStatus.NO_CONTENT.value());
                return "handoff-parts :: sent";
            } catch (Overtaken | IllegalArgumentException refused) {
                errors.put("", String.valueOf(refused.getMessage()));
            }
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        fill(form(one, version, team, title, story), errors, model);
        return htmx == null ? "handoff" : "handoff-parts :: form";
    }

    @PostMapping("/handoffs/{id}/send")
    String sendNow(@PathVariable UUID id, Model model) {
        handoffs.again(id, times.now());
        return list("", 0, "handoff-rows", model);
    }

    private WorkCase find(long id) {
        return cases.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no case " + id + "."));
    }
}
