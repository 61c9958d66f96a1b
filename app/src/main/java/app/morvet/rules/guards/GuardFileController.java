package app.morvet.rules.guards;

import app.morvet.ground.access.Person;
import app.morvet.ground.page.Files;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ClassPathResource;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Guards as a file: out, in with a look before, and the schema that says what may stand in it. */
@Controller
class GuardFileController {
    private final GuardFile file;

    GuardFileController(GuardFile file) {
        this.file = file;
    }

    @GetMapping("/guards/file")
    String page(Model model) {
        model.addAttribute("text", "");
        return "guard-file";
    }

    @GetMapping("/guards/file/guards.yaml")
    ResponseEntity<byte[]> out() {
        return Files.out("guards.yaml", "application/yaml", file.write());
    }

    @GetMapping("/guards/file/guards.schema.json")
    ResponseEntity<byte[]> schema() throws IOException {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, "application/schema+json")
                .body(new ClassPathResource("guards.schema.json").getContentAsByteArray());
    }

    @PostMapping("/guards/file")
    String preview(
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        model.addAttribute("text", whole);
        model.addAttribute("read", file.read(whole));
        return "guard-file";
    }

    @PostMapping("/guards/file/apply")
    String apply(@RequestParam String text, @AuthenticationPrincipal Person by, Model model) {
        try {
            Files.taken(text, file.apply(text, by), model);
        } catch (DuplicateKeyException | Guards.Overtaken meanwhile) {
            model.addAttribute("text", text);
            model.addAttribute("read", file.read(text));
            model.addAttribute(
                    "refusal",
                    "Somebody changed a guard meanwhile. Nothing was changed; this is what the file would do now.");
        }
        return "guard-file";
    }
}
