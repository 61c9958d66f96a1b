package app.morvet.work.callouts;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.OwnFigure;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The record of who was told what and whether it got through; and the word on the now line when it does not. */
@Controller
class CallOutController implements DossierPart, NowSource, OwnFigure {
    private static final int SHOWN = 100;
    private static final int LONGEST_SEARCH = 200;
    /** So far back it is counted who was told how often. */
    private static final Duration NIGHT = Duration.ofHours(12);

    record Row(
            String id,
            String page,
            String mark,
            String state,
            String way,
            String recipient,
            String who,
            String subject,
            String made,
            String sent,
            String trouble,
            boolean canSend) {}

    record TryRow(String at, String way, String recipient, boolean done, String words, String took) {}

    record OftenRow(long person, String name, long times) {}

    private final DeliveryStore store;
    private final DeliveryTries tries;
    private final CallOuts callOuts;
    private final Estate estate;
    private final People people;
    private final CaseBook cases;
    private final Audit audit;
    private final Errands errands;
    private final Times times;

    CallOutController(
            DeliveryStore store,
            DeliveryTries tries,
            CallOuts callOuts,
            Estate estate,
            People people,
            CaseBook cases,
            Audit audit,
            Errands errands,
            Times times) {
        this.store = store;
        this.tries = tries;
        this.callOuts = callOuts;
        this.people = people;
        this.cases = cases;
        this.audit = audit;
        this.estate = estate;
        this.errands = errands;
        this.times = times;
    }

    @GetMapping("/callouts")
    String list(
            @RequestParam(defaultValue = "") String show,
            @RequestParam(required = false) @Nullable Long person,
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "0") int from,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            @AuthenticationPrincipal Person by,
            Model model) {
        var wanted = words.strip();
        if (wanted.length() > LONGEST_SEARCH) wanted = wanted.substring(0, LONGEST_SEARCH);
        int skip = Math.clamp(from, 0, 1_000_000);
        var names = people.names();
        var found = store.find(show.equals("waiting"), person, wanted, skip, SHOWN + 1);
        model.addAttribute("show", show);
        model.addAttribute("person", person);
        model.addAttribute("personName", person == null ? "" : names.getOrDefault(person, "somebody"));
        model.addAttribute("words", wanted);
        model.addAttribute("from", skip);
        model.addAttribute("older", found.size() > SHOWN ? skip + SHOWN : 0);
        model.addAttribute(
                "rows",
                found.stream()
                        .limit(SHOWN)
                        .map(one -> row(one, names, maySend(one, by)))
                        .toList());
        model.addAttribute(
                "often",
                store.often(times.now().minus(NIGHT)).stream()
                        .limit(12)
                        .map(one ->
                                new OftenRow(one.person(), names.getOrDefault(one.person(), "somebody"), one.times()))
                        .toList());
        return "callout-rows".equals(target) ? "callout-parts :: rows" : "callouts";
    }

    /** Each try of one, by whatever way. */
    @GetMapping("/callouts/{id}/tries")
    String tries(@PathVariable UUID id, Model model) {
        model.addAttribute(
                "tries",
                tries.of(id).stream()
                        .map(one -> new TryRow(
                                times.exact(one.at()),
                                one.way().words(),
                                one.recipient(),
                                one.outcome() == DeliveryTries.Outcome.TAKEN,
                                one.words(),
                                "%,d ms".formatted(one.took().toMillis())))
                        .toList());
        return "callout-parts :: tries";
    }

    /** By who has the case, or by a lead: what others do is theirs. */
    @PostMapping("/callouts/{id}/send")
    @Transactional
    public String sendNow(@PathVariable UUID id, @AuthenticationPrincipal Person by) {
        var one = store.byId(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such call-out."));
        if (!maySend(one, by))
            throw new ResponseStatusException(
                    HttpStatus.FORBIDDEN,
                    "Take the case first; then its call-outs are yours to send, and so are mails that you wrote. A lead may send any.");
        audit.record(by, "sent again", "call-out to " + one.recipient(), null, one.subject());
        store.again(id, times.now());
        errands.at(times.now(), DeliverySending.NAME, id.toString());
        return "redirect:/callouts";
    }

    private static boolean waiting(Delivery one) {
        return one.state() != Delivery.State.SENT && one.failures() > 0;
    }

    private boolean maySend(Delivery one, Person by) {
        if (!waiting(one)) return false;
        return by.may("TUNE")
                || Objects.equals(one.by(), by.id())
                || Optional.ofNullable(one.caseId())
                        .flatMap(cases::find)
                        .filter(found -> Objects.equals(found.progress().takenBy(), by.id()))
                        .isPresent();
    }

    @Override
    public String liveTopic() {
        return CallOutRules.TOPIC;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var names = people.names();
        var rows = store.ofCase(shown.id()).stream()
                .map(one -> row(one, names, false))
                .toList();
        return rows.isEmpty() ? Optional.empty() : Optional.of(new Part("callout-parts :: dossierPart", rows));
    }

    @Override
    public List<Figure> figures() {
        return List.of(new Figure(
                "morvet_deliveries_given_up",
                "",
                "What could not be delivered and was given up.",
                Map.of("of", "call-outs"),
                false,
                store.givenUp().values().stream().mapToLong(Long::longValue).sum()));
    }

    @Override
    public List<NowItem> now() {
        var items = new ArrayList<NowItem>();
        for (var one : tries.failing(times.now()))
            items.add(new NowItem(
                    "critical",
                    one.way().words() + " failing since " + times.of(one.since())
                            + (one.waiting() > 0 ? ", " + one.waiting() + " waiting" : ""),
                    "/callouts?show=waiting"));
        store.givenUp()
                .forEach((way, count) -> items.add(new NowItem(
                        "critical",
                        count + " " + way.words() + (count == 1 ? "" : "s") + " not delivered",
                        "/callouts?show=waiting")));
        long unheard = callOuts.unheard();
        if (unheard > 0)
            items.add(new NowItem(
                    "critical", unheard == 1 ? "nobody took 1 case" : "nobody took " + unheard + " cases", "/cases"));
        return items;
    }

    private String page(Delivery.Of of) {
        return switch (of) {
            case Delivery.Of.Case(long id) -> "/cases/" + id;
            case Delivery.Of.Window(long id) -> "/windows/" + id;
            case Delivery.Of.Rule(long id) -> "/callouts/rules/" + id;
            case Delivery.Of.Handover(long id) -> "/shift/handover/" + id;
            case Delivery.Of.Reach one -> "/me/told";
            case Delivery.Of.Vendor(long id) ->
                "/vendors/" + estate.component(id).key();
        };
    }

    /** What waits because whoever is told wishes so says until when. */
    private String waits(Delivery one) {
        var next = one.nextTry();
        boolean later = one.state() == Delivery.State.WAITING && next != null && next.isAfter(times.now());
        return later && Duration.between(one.madeAt(), next).compareTo(Mails.BURST) > 0
                ? "Goes " + times.of(next) + ", as they wish or as their team agreed."
                : "";
    }

    private Row row(Delivery one, Map<Long, String> names, boolean may) {
        var tries = one.failures() + (one.failures() == 1 ? " try" : " tries") + " failed: " + one.lastError();
        boolean waiting = one.state() != Delivery.State.SENT;
        var to = one.to();
        return new Row(
                one.id().toString(),
                page(one.of()),
                switch (one.state()) {
                    case SENT -> "steady";
                    case WAITING -> one.failures() > 0 ? "warning" : "notice";
                    case GIVEN_UP -> "critical";
                },
                one.state().words(),
                to.hop().way().words(),
                to.hop().way().isPersonal() ? one.recipient() : "",
                !to.hop().way().isPersonal()
                        ? one.recipient()
                        : to.person() != null
                                ? names.getOrDefault(to.person(), "somebody")
                                : Optional.ofNullable(to.team())
                                        .flatMap(estate::team)
                                        .map(Estate.Team::name)
                                        .orElse(""),
                one.subject(),
                times.of(one.madeAt()),
                times.of(one.sentAt()),
                !waiting || one.failures() == 0
                        ? waits(one)
                        : one.nextTry() == null
                                ? tries
                                : tries + ". Next try "
                                        + times.exact(one.nextTry()).substring(11) + ".",
                may && waiting(one));
    }
}
