package app.morvet.sources.messages;

import app.morvet.core.messages.Masking;
import app.morvet.core.messages.PayloadView;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What is hidden in failed messages: the masks, and what each hides right now. */
@Controller
class MasksController {
    private static final int LOOKED_AT = 200;
    private static final int EXAMPLES = 3;

    record Row(long id, String name, String words) {}

    /** The form, typed text and all. */
    record Form(long id, String name, String interfaces, String path, String pattern) {
        static final Form EMPTY = new Form(0, "", "", "", "");
    }

    /** A line of a message with something hidden in it. */
    record Example(String id, String where, String line) {}

    private final Masks masks;
    private final MessageStore store;
    private final Estate estate;
    private final Times times;

    MasksController(Masks masks, MessageStore store, Estate estate, Times times) {
        this.masks = masks;
        this.store = store;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/messages/masks")
    String list(@RequestParam(defaultValue = "0") long edit, Model model) {
        var form = masks.all().stream()
                .filter(one -> one.id() == edit)
                .findFirst()
                .map(one -> new Form(
                        one.id(),
                        one.name(),
                        String.join(
                                ", ",
                                one.interfaces().stream().map(estate::nameOf).toList()),
                        one.path(),
                        one.pattern()))
                .orElse(Form.EMPTY);
        return page(form, "", model);
    }

    private String page(Form form, String wrong, Model model) {
        model.addAttribute(
                "masks",
                masks.all().stream()
                        .map(one -> new Row(one.id(), one.name(), masks.words(one)))
                        .toList());
        model.addAttribute("form", form);
        model.addAttribute("wrong", wrong);
        model.addAttribute("interfaces", estate.interfaces());
        fillPreview(form, model);
        return "masks";
    }

    /** What it hides in what failed last, recomputed as it is edited. */
    @PostMapping("/messages/masks/preview")
    String preview(
            @RequestParam(defaultValue = "") String interfaces,
            @RequestParam(defaultValue = "") String path,
            @RequestParam(defaultValue = "") String pattern,
            Model model) {
        fillPreview(new Form(0, "", interfaces, path, pattern), model);
        return "mask-parts :: preview";
    }

    private void fillPreview(Form form, Model model) {
        model.addAttribute("examples", List.of());
        model.addAttribute("outcome", "");
        model.addAttribute("never", false);
        if (form.path().isBlank() && form.pattern().isBlank()) return;
        Set<String> keys;
        Masking masking;
        try {
            keys = estate.interfacesNamed(form.interfaces());
            var mask = new Masks.Stored(0, "this mask", keys, form.path().strip(), form.pattern()).mask();
            masking = Masking.ofAll(List.of(mask));
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("outcome", Sentence.of(wrong));
            model.addAttribute("never", true);
            return;
        }
        var now = times.now();
        var looked = store.latest(
                keys.stream()
                        .flatMap(key -> estate.byKey(key).stream())
                        .map(Estate.Component::id)
                        .toList(),
                now.minus(Duration.ofDays(30)),
                LOOKED_AT);
        int hiding = 0;
        var examples = new java.util.ArrayList<Example>();
        for (var one : looked) {
            var shown = shown(one, masking);
            if (shown == null) continue;
            hiding++;
            if (examples.size() < EXAMPLES)
                examples.add(new Example(
                        one.line().id().toString(),
                        estate.component(one.line().component()).name(),
                        shown));
        }
        model.addAttribute("examples", examples);
        model.addAttribute("never", hiding == 0);
        model.addAttribute(
                "outcome",
                hiding == 0
                        ? "In the latest %d failed messages it hides nothing.".formatted(looked.size())
                        : "It hides something in %d of the latest %d failed messages."
                                .formatted(hiding, looked.size()));
    }

    /** The first line in which something is hidden, or null. Everything that is masked already stays so. */
    private @Nullable String shown(MessageStore.Whole one, Masking masking) {
        boolean hides = masking.payload(one.payloadType(), one.payload()).hidden() > 0
                || masking.text(one.line().error()).hidden() > 0
                || masking.attributes(one.attributes()).containsValue(Masking.HIDDEN);
        if (!hides) return null;
        var before = masks.on(one.line().component());
        var already = before.payload(one.payloadType(), one.payload()).text();
        var text = PayloadView.of(one.payloadType(), already, masking, "");
        return (text.text() + "\n"
                        + text.table().stream()
                                .map(row -> String.join(", ", row))
                                .reduce("", (a, b) -> a + "\n" + b))
                .lines()
                .filter(line -> line.contains(Masking.HIDDEN))
                .findFirst()
                .map(String::strip)
                .map(line -> line.length() > 160 ? line.substring(0, 159) + "…" : line)
                .orElse("in its error or attributes");
    }

    @PostMapping("/messages/masks/save")
    String save(
            @RequestParam(defaultValue = "0") long id,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String interfaces,
            @RequestParam(defaultValue = "") String path,
            @RequestParam(defaultValue = "") String pattern,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            if (path.isBlank() == pattern.isBlank())
                throw new IllegalArgumentException("give either the path of a field or a pattern, and not both");
            masks.put(id == 0 ? null : id, name, estate.interfacesNamed(interfaces), path, pattern, by);
            return "redirect:/messages/masks";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(new Form(id, name, interfaces, path, pattern), Sentence.of(wrong), model);
        }
    }

    @PostMapping("/messages/masks/{id:\\d+}/delete")
    String delete(@PathVariable long id, @AuthenticationPrincipal Person by) {
        masks.delete(id, by);
        return "redirect:/messages/masks";
    }
}
