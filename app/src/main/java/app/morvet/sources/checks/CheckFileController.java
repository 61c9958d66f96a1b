package app.morvet.sources.checks;

import app.morvet.ground.access.Person;
import app.morvet.ground.base.YamlFile;
import app.morvet.ground.page.Files;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Checks as a file: out, in with a look before, and the schema that says what may stand in it. */
@Controller
class CheckFileController {
    private final CheckFile file;

    CheckFileController(CheckFile file) {
        this.file = file;
    }

    @GetMapping("/services/checks/file")
    String page(Model model) {
        model.addAttribute("text", "");
        return "check-file";
    }

    @GetMapping("/services/checks/file/checks.yaml")
    ResponseEntity<byte[]> out() {
        return Files.out("checks.yaml", "application/yaml", file.write());
    }

    @GetMapping("/services/checks/file/checks.schema.json")
    ResponseEntity<byte[]> schema() {
        return Files.out("checks.schema.json", "application/schema+json", file.schema());
    }

    @PostMapping("/services/checks/file")
    String preview(
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        model.addAttribute("text", whole);
        model.addAttribute("read", file.read(whole));
        return "check-file";
    }

    @PostMapping("/services/checks/file/apply")
    String apply(@RequestParam String text, @AuthenticationPrincipal Person by, Model model) {
        try {
            Files.taken(text, file.apply(text, by), model);
        } catch (YamlFile.Wrong wrong) {
            Files.taken(text, new YamlFile.Read(List.of(), 0, List.of(wrong.fault())), model);
        } catch (DuplicateKeyException meanwhile) {
            model.addAttribute("text", text);
            model.addAttribute("read", file.read(text));
            model.addAttribute("refusal", "Somebody made a check of the same name meanwhile. Nothing was changed.");
        }
        return "check-file";
    }
}
