package app.morvet.work.callouts;

import app.morvet.ground.base.Errands;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The record of who was told what and whether it got through; and the word on the now line when it does not. */
@Controller
class CallOutController implements DossierPart, NowSource {
    private static final int SHOWN = 200;

    record Row(
            String id,
            long caseId,
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
    private final Errands errands;
    private final Times times;

    CallOutController(DeliveryStore store, Estate estate, Errands errands, Times times) {
        this.store = store;
        this.estate = estate;
        this.errands = errands;
        this.times = times;
    }

    @GetMapping("/callouts")
    String list(@RequestParam(defaultValue = "") String show, Model model) {
        model.addAttribute("show", show);
        model.addAttribute(
                "rows",
                store.recent(show.equals("waiting"), SHOWN).stream()
                        .map(this::row)
                        .toList());
        return "callouts";
    }

    @PostMapping("/callouts/{id}/send")
    @Transactional
    public String sendNow(@PathVariable UUID id) {
        store.again(id, times.now());
        errands.at(times.now(), MailSending.NAME, id.toString());
        return "redirect:/callouts";
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var rows = store.ofCase(shown.id()).stream().map(this::row).toList();
        return rows.isEmpty() ? Optional.empty() : Optional.of(new Part("callout-parts :: dossierPart", rows));
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
        if (trouble.givenUp() > 0) {
            items.add(new NowItem(
                    "critical",
                    trouble.givenUp() + (trouble.givenUp() == 1 ? " mail" : " mails") + " not delivered",
                    "/callouts?show=waiting"));
        }
        return items;
    }

    private Row row(Delivery one) {
        var tries = one.failures() + (one.failures() == 1 ? " try" : " tries") + " failed: " + one.lastError();
        boolean waiting = one.state() != Delivery.State.SENT;
        return new Row(
                one.id().toString(),
                one.caseId(),
                switch (one.state()) {
                    case SENT -> "steady";
                    case WAITING -> one.failures() > 0 ? "warning" : "notice";
                    case GIVEN_UP -> "critical";
                },
                one.state().words(),
                one.recipient(),
                estate.team(one.team()).map(Estate.Team::name).orElse(""),
                one.subject(),
                times.of(one.madeAt()),
                times.of(one.sentAt()),
                !waiting || one.failures() == 0
                        ? ""
                        : one.nextTry() == null
                                ? tries
                                : tries + ". Next try "
                                        + times.exact(one.nextTry()).substring(11) + ".",
                waiting && one.failures() > 0);
    }
}
