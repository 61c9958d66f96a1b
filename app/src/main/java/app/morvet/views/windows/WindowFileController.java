package app.morvet.views.windows;

import app.morvet.ground.access.Person;
import app.morvet.ground.base.YamlFile;
import app.morvet.ground.page.Files;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Windows as a file: out, in with a look before, and the schema that says what may stand in it. */
@Controller
class WindowFileController {
    private final WindowFile file;

    WindowFileController(WindowFile file) {
        this.file = file;
    }

    @GetMapping("/windows/file")
    String page(Model model) {
        model.addAttribute("text", "");
        return "window-file";
    }

    @GetMapping("/windows/file/windows.yaml")
    ResponseEntity<byte[]> out() {
        return Files.out("windows.yaml", "application/yaml", file.write());
    }

    @GetMapping("/windows/file/windows.schema.json")
    ResponseEntity<byte[]> schema() {
        return Files.out("windows.schema.json", "application/schema+json", file.schema());
    }

    @PostMapping("/windows/file")
    String preview(
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        model.addAttribute("text", whole);
        model.addAttribute("read", file.read(whole));
        return "window-file";
    }

    @PostMapping("/windows/file/apply")
    String apply(@RequestParam String text, @AuthenticationPrincipal Person by, Model model) {
        try {
            Files.taken(text, file.apply(text, by), model);
        } catch (YamlFile.Wrong wrong) {
            Files.taken(text, new YamlFile.Read(List.of(), 0, List.of(wrong.fault())), model);
        }
        return "window-file";
    }
}
