package app.morvet.work.callouts;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.OwnFigure;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The record of who was told what and whether it got through; and the word on the now line when it does not. */
@Controller
class CallOutController implements DossierPart, NowSource, OwnFigure {
    private static final int SHOWN = 200;

    record Row(
            String id,
            String page,
            String mark,
            String state,
            String recipient,
            String team,
            String subject,
            String made,
            String sent,
            String trouble,
            boolean canSend) {}

    private final DeliveryStore store;
    private final Estate estate;
    private final CaseBook cases;
    private final Audit audit;
    private final Errands errands;
    private final Times times;

    CallOutController(DeliveryStore store, Estate estate, CaseBook cases, Audit audit, Errands errands, Times times) {
        this.store = store;
        this.cases = cases;
        this.audit = audit;
        this.estate = estate;
        this.errands = errands;
        this.times = times;
    }

    @GetMapping("/callouts")
    String list(@RequestParam(defaultValue = "") String show, @AuthenticationPrincipal Person by, Model model) {
        model.addAttribute("show", show);
        model.addAttribute(
                "rows",
                store.recent(show.equals("waiting"), SHOWN).stream()
                        .map(one -> row(one, maySend(one, by)))
                        .toList());
        return "callouts";
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
        errands.at(times.now(), MailSending.NAME, id.toString());
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
        return "callouts";
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var rows = store.ofCase(shown.id()).stream().map(one -> row(one, false)).toList();
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
                store.trouble().givenUp()));
    }

    @Override
    public List<NowItem> now() {
        var trouble = store.trouble();
        var items = new ArrayList<NowItem>();
        if (trouble.waiting() > 0) {
            items.add(new NowItem(
                    "critical",
                    "mail failing since " + times.of(trouble.since()) + ", " + trouble.waiting() + " waiting",
                    "/callouts?show=waiting"));
        }
        long unheard = store.unheard().stream()
                .flatMap(id -> cases.find(id).stream())
                .filter(one -> !CallOuts.isHad(one))
                .count();
        if (unheard > 0)
            items.add(new NowItem(
                    "critical",
                    unheard == 1 ? "nobody took 1 critical case" : "nobody took " + unheard + " critical cases",
                    "/cases"));
        if (trouble.givenUp() > 0) {
            items.add(new NowItem(
                    "critical",
                    trouble.givenUp() + (trouble.givenUp() == 1 ? " mail" : " mails") + " not delivered",
                    "/callouts?show=waiting"));
        }
        return items;
    }

    private String page(Delivery.Of of) {
        return switch (of) {
            case Delivery.Of.Case(long id) -> "/cases/" + id;
            case Delivery.Of.Window(long id) -> "/windows/" + id;
            case Delivery.Of.Vendor(long id) ->
                "/vendors/" + estate.component(id).key();
        };
    }

    private Row row(Delivery one, boolean may) {
        var tries = one.failures() + (one.failures() == 1 ? " try" : " tries") + " failed: " + one.lastError();
        boolean waiting = one.state() != Delivery.State.SENT;
        return new Row(
                one.id().toString(),
                page(one.of()),
                switch (one.state()) {
                    case SENT -> "steady";
                    case WAITING -> one.failures() > 0 ? "warning" : "notice";
                    case GIVEN_UP -> "critical";
                },
                one.state().words(),
                one.recipient(),
                Optional.ofNullable(one.team())
                        .flatMap(estate::team)
                        .map(Estate.Team::name)
                        .orElse(""),
                one.subject(),
                times.of(one.madeAt()),
                times.of(one.sentAt()),
                !waiting || one.failures() == 0
                        ? ""
                        : one.nextTry() == null
                                ? tries
                                : tries + ". Next try "
                                        + times.exact(one.nextTry()).substring(11) + ".",
                may && waiting(one));
    }
}
