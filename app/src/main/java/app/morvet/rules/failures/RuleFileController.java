package app.morvet.rules.failures;

import app.morvet.ground.access.Person;
import app.morvet.ground.page.Files;
import app.morvet.sources.sorting.RuleFile;
import app.morvet.sources.sorting.SortingRules;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The sorting rules as a file: out, and in with a look before. */
@Controller
class RuleFileController {
    private final RuleFile file;
    private final SortingRules rules;
    private final ReSorting resorting;

    RuleFileController(RuleFile file, SortingRules rules, ReSorting resorting) {
        this.file = file;
        this.rules = rules;
        this.resorting = resorting;
    }

    @GetMapping("/messages/rules/file")
    String page(Model model) {
        model.addAttribute("text", "");
        return "rule-file";
    }

    @GetMapping("/messages/rules/file/sorting-rules.yaml")
    ResponseEntity<byte[]> out() {
        return Files.out("sorting-rules.yaml", "application/yaml", file.write());
    }

    @PostMapping("/messages/rules/file")
    String preview(
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        fill(whole, model);
        return "rule-file";
    }

    private void fill(String text, Model model) {
        model.addAttribute("text", text);
        model.addAttribute("read", file.read(text));
        model.addAttribute("version", rules.fresh().version());
    }

    @PostMapping("/messages/rules/file/apply")
    String apply(
            @RequestParam String text, @RequestParam int version, @AuthenticationPrincipal Person by, Model model) {
        var read = file.read(text);
        try {
            if (read.faults().isEmpty()) {
                rules.change(version, read.rules(), by);
                resorting.soon();
                return "redirect:/messages/rules";
            }
        } catch (SortingRules.Overtaken | IllegalArgumentException refused) {
            model.addAttribute("refusal", refused.getMessage());
        }
        fill(text, model);
        return "rule-file";
    }
}
