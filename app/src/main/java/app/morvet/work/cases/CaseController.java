package app.morvet.work.cases;

import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.page.Times;
import app.morvet.ground.tracks.TimePictures;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The Cases place: the list by urgency, the dossier of one case, and what people do to it. */
@Controller
class CaseController {
    /** What was typed into a form that was refused, so that it is still there. */
    record Typed(String form, String words, String until, String choice) {
        static final Typed NOTHING = new Typed("", "", "", "");
    }

    private final CaseBook book;
    private final CaseViews views;
    private final CaseLists lists;
    private final CaseJoining joining;
    private final CasePicture picture;
    private final CaseSteps steps;
    private final People people;
    private final Times times;

    CaseController(
            CaseBook book,
            CaseViews views,
            CaseLists lists,
            CaseJoining joining,
            CasePicture picture,
            CaseSteps steps,
            People people,
            Times times) {
        this.book = book;
        this.views = views;
        this.lists = lists;
        this.joining = joining;
        this.picture = picture;
        this.steps = steps;
        this.people = people;
        this.times = times;
    }

    @GetMapping("/cases")
    String list(
            @ModelAttribute CaseLists.Asked asked,
            @RequestParam(defaultValue = "0") int from,
            @RequestParam(defaultValue = "") String before,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            @AuthenticationPrincipal Person reader,
            Model model) {
        lists.fill(asked, from, before, reader, model);
        model.addAttribute("selected", 0L);
        if ("case-rows".equals(target)) return "case-parts :: list";
        if ("more".equals(target)) return "case-parts :: more";
        // Where both fit, the first stands open beside the list.
        if (model.getAttribute("rows") instanceof List<?> rows
                && !rows.isEmpty()
                && rows.getFirst() instanceof CaseViews.Row first) {
            fillDossier(find(first.id()), Typed.NOTHING, model);
            model.addAttribute("selected", first.id());
        }
        return "cases";
    }

    @GetMapping("/cases/{id:\\d+}")
    String one(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String show,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            @AuthenticationPrincipal Person reader,
            Model model) {
        var asked = TimePictures.asked(from, to);
        var found = find(id);
        if ("dossier-title".equals(target)) {
            model.addAttribute("one", views.brief(found));
            model.addAttribute("partOf", joining.partOf(found.id()).orElse(null));
            return "case-parts :: title";
        }
        // The picture of time is kept where the rest is fetched anew; it follows by itself.
        fillDossier(found, Typed.NOTHING, "dossier-facts".equals(target) ? null : picture.of(found, asked), model);
        if ("dossier".equals(target)) return "case-parts :: dossier";
        if ("dossier-facts".equals(target)) return "case-parts :: facts";
        lists.fill(
                CaseLists.Asked.list(show.isEmpty() ? (found.settled() ? "settled" : "open") : show),
                0,
                "",
                reader,
                model);
        model.addAttribute("chosen", true);
        model.addAttribute("selected", id);
        return "cases";
    }

    private WorkCase find(long id) {
        return book.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no case " + id + "."));
    }

    private void fillDossier(WorkCase found, Typed typed, Model model) {
        fillDossier(found, typed, picture.of(found, Optional.empty()), model);
    }

    private void fillDossier(WorkCase found, Typed typed, TimePictures.@Nullable Shown time, Model model) {
        var dossier = views.dossier(found);
        model.addAttribute("one", dossier);
        model.addAttribute("time", time);
        model.addAttribute("typed", typed);
        model.addAttribute("people", people.all());
        model.addAttribute("reasons", CaseViews.reasons());
        model.addAttribute("quietChoices", quietChoices());
        model.addAttribute("joinChoices", dossier.settled() ? List.of() : joining.choices(found));
        model.addAttribute("partOf", joining.partOf(found.id()).orElse(null));
    }

    /** An hour, the rest of the shift of eight hours, tomorrow morning, and the working week's end, as local times. */
    private List<LocalDateTime> quietChoices() {
        var now =
                times.now().atZone(times.zone()).toLocalDateTime().withSecond(0).withNano(0);
        return List.of(
                now.plusHours(1), now.plusHours(4), now.plusDays(1).withHour(8).withMinute(0));
    }

    private interface Act {
        long now();
    }

    /** Does an act and shows the dossier as it then is; where somebody was faster, or something typed is wrong, says so. */
    private String act(long id, Typed typed, Act act, HttpServletResponse response, Model model) {
        find(id);
        try {
            model.addAttribute("undo", act.now());
            fillDossier(find(id), Typed.NOTHING, model);
        } catch (Overtaken overtaken) {
            refused(id, typed, HttpStatus.CONFLICT, overtaken, response, model);
        } catch (IllegalArgumentException wrong) {
            refused(id, typed, HttpStatus.UNPROCESSABLE_CONTENT, wrong, response, model);
        }
        return "case-parts :: dossier";
    }

    private void refused(
            long id, Typed typed, HttpStatus status, Exception why, HttpServletResponse response, Model model) {
        response.setStatus(status.value());
        model.addAttribute("refusal", why.getMessage());
        fillDossier(find(id), typed, model);
    }

    /** A step of a fix note is done, or is not after all. */
    @PostMapping("/cases/{id}/steps")
    String step(
            @PathVariable long id,
            @RequestParam String step,
            @RequestParam(defaultValue = "false") boolean done,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                Typed.NOTHING,
                () -> {
                    steps.tick(id, step, done, by, times.now());
                    return 0;
                },
                response,
                model);
    }

    @PostMapping("/cases/{id}/join")
    String join(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam(defaultValue = "0") long into,
            @RequestParam(defaultValue = "false") boolean remember,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                new Typed("join", "", "", "" + into),
                () -> {
                    joining.join(id, version, into, remember, by, times.now());
                    return 0;
                },
                response,
                model);
    }

    @PostMapping("/cases/{id}/split")
    String split(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam long alert,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                Typed.NOTHING,
                () -> {
                    joining.split(id, version, alert, by, times.now());
                    return 0;
                },
                response,
                model);
    }

    @PostMapping("/cases/{id}/take")
    String take(
            @PathVariable long id,
            @RequestParam int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(id, Typed.NOTHING, () -> book.take(id, version, by, times.now()), response, model);
    }

    @PostMapping("/cases/{id}/give")
    String give(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam(defaultValue = "0") long to,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                new Typed("give", "", "", "" + to),
                () -> book.give(id, version, by, to, times.now()),
                response,
                model);
    }

    @PostMapping("/cases/{id}/quiet")
    String quiet(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam(defaultValue = "") String until,
            @RequestParam(defaultValue = "") String words,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                new Typed("quiet", words, until, ""),
                () -> book.quiet(id, version, by, localTime(until), words, times.now()),
                response,
                model);
    }

    private Instant localTime(String text) {
        try {
            return LocalDateTime.parse(text).atZone(times.zone()).toInstant();
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException(
                    "Give the time to keep quiet until as a day and a time, such as 2026-11-24T18:00.");
        }
    }

    @PostMapping("/cases/{id}/note")
    String note(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String words,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                new Typed("note", words, "", ""),
                () -> {
                    book.note(id, by, words, times.now());
                    return 0;
                },
                response,
                model);
    }

    @PostMapping("/cases/{id}/settle")
    String settle(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam(defaultValue = "") String reason,
            @RequestParam(defaultValue = "") String words,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                new Typed("settle", words, "", reason),
                () -> {
                    var chosen = SettleReason.choices().stream()
                            .filter(one -> one.name().equals(reason.toUpperCase(Locale.ROOT)))
                            .findFirst()
                            .orElseThrow(() -> new IllegalArgumentException("Choose a reason for settling the case."));
                    return book.settle(id, version, by, chosen, words, times.now());
                },
                response,
                model);
    }

    @PostMapping("/cases/{id}/reopen")
    String reopen(
            @PathVariable long id,
            @RequestParam int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(id, Typed.NOTHING, () -> book.reopen(id, version, by, times.now()), response, model);
    }

    @PostMapping("/cases/{id}/undo")
    String undo(
            @PathVariable long id,
            @RequestParam long entry,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                Typed.NOTHING,
                () -> {
                    book.undo(entry, by, times.now());
                    return 0;
                },
                response,
                model);
    }
}
