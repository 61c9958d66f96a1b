package app.morvet.work.callouts;

import app.morvet.core.callouts.TextMessage;
import app.morvet.core.callouts.Wording;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.page.CurvePicture;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseEvidence;
import app.morvet.work.cases.WorkCase;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** How mails and text messages about a case are worded, with what it comes to for a case that there was. */
@Controller
class WordsController {
    private static final int CASES = 60;
    private static final String LIKE_A_CODE = "x".repeat(16);

    private final WordingStore wordings;
    private final CallOutWords words;
    private final CaseBook cases;
    private final CaseEvidence evidence;
    private final MorvetSettings settings;

    WordsController(
            WordingStore wordings, CallOutWords words, CaseBook cases, CaseEvidence evidence, MorvetSettings settings) {
        this.settings = settings;
        this.wordings = wordings;
        this.words = words;
        this.cases = cases;
        this.evidence = evidence;
    }

    /** @param own whether somebody worded it */
    record Tab(String of, String name, boolean own) {}

    record Choice(long id, String words) {}

    private static String name(String of) {
        return of.equals(WordingStore.ANY) ? "all cases" : of + " cases";
    }

    private static String known(String of) {
        if (!WordingStore.FOR.contains(of))
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "There are no words for \"" + of + "\".");
        return of;
    }

    @GetMapping("/setup/channels/words")
    String words(@RequestParam(name = "for", defaultValue = WordingStore.ANY) String of, Model model) {
        var kept = wordings.find(known(of));
        // What is begun for cases so bad begins with what holds for them.
        var shown = kept.or(() -> wordings.find(WordingStore.ANY)).orElse(WordingStore.OWN.typed());
        return page(of, shown.at(kept.map(WordingStore.Typed::version).orElse(0)), model);
    }

    private String page(String of, WordingStore.Typed typed, Model model) {
        model.addAttribute("of", of);
        model.addAttribute(
                "tabs",
                WordingStore.FOR.stream()
                        .map(one -> new Tab(one, name(one), wordings.find(one).isPresent()))
                        .toList());
        model.addAttribute("typed", typed);
        model.addAttribute("variables", Wording.VARIABLES);
        var choices = cases.latest(CASES);
        model.addAttribute(
                "choices",
                choices.stream()
                        .map(one -> new Choice(one.id(), "%d, %s".formatted(one.id(), one.headline())))
                        .toList());
        preview(typed, choices.stream().findFirst(), model);
        return "wording";
    }

    private void preview(WordingStore.Typed typed, Optional<WorkCase> of, Model model) {
        try {
            var worded = typed.worded(WordingStore.ANY);
            of.ifPresent(one -> {
                var said = words.of(one, Delivery.About.OPENED, 0, settings.zone(), worded);
                model.addAttribute("said", said);
                model.addAttribute("text", TextMessage.of(said.brief(), settings.link("/take/" + LIKE_A_CODE)));
                var curve = "src=\"/setup/channels/words/curve/%d.png\"".formatted(one.id());
                model.addAttribute(
                        "html",
                        evidence.curve(one).isPresent()
                                ? said.html().replace("src=\"" + MailHtml.CURVE + "\"", curve)
                                : MailHtml.withoutCurve(said.html()));
            });
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("wrong", wrong.getMessage());
        }
    }

    @PostMapping("/setup/channels/words/preview")
    String preview(
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "") String body,
            @RequestParam(defaultValue = "") String brief,
            @RequestParam(name = "case", defaultValue = "0") long id,
            Model model) {
        preview(new WordingStore.Typed(subject, body, brief, 0), cases.find(id), model);
        return "wording :: preview";
    }

    @PostMapping("/setup/channels/words")
    String keep(
            @RequestParam(name = "for", defaultValue = WordingStore.ANY) String of,
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "") String body,
            @RequestParam(defaultValue = "") String brief,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var typed = new WordingStore.Typed(subject, body, brief, version);
        try {
            wordings.keep(known(of), typed, by);
            return "redirect:/setup/channels/words?saved&for=" + of;
        } catch (IllegalArgumentException | WordingStore.Overtaken wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", wrong.getMessage());
            return page(of, typed, model);
        }
    }

    @PostMapping("/setup/channels/words/drop")
    String drop(
            @RequestParam(name = "for", defaultValue = WordingStore.ANY) String of,
            @AuthenticationPrincipal Person by) {
        wordings.drop(known(of), by);
        return "redirect:/setup/channels/words?for=" + of;
    }

    @GetMapping("/setup/channels/words/curve/{id:\\d{1,18}}.png")
    ResponseEntity<byte[]> curve(@PathVariable long id) {
        return cases.find(id)
                .flatMap(evidence::curve)
                .map(curve ->
                        ResponseEntity.ok().contentType(MediaType.IMAGE_PNG).body(CurvePicture.png(curve)))
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no curve of case " + id + "."));
    }
}
