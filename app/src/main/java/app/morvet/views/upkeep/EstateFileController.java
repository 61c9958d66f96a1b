package app.morvet.views.upkeep;

import app.morvet.ground.access.Person;
import app.morvet.ground.page.Files;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Names, owners and tiers from a CSV file, after a look at what it would change. */
@Controller
class EstateFileController {
    private final EstateFile file;

    EstateFileController(EstateFile file) {
        this.file = file;
    }

    @GetMapping("/estate/file")
    String page(Model model) {
        model.addAttribute("text", "");
        return "estate-file";
    }

    /** Reads a file and shows what it would change. */
    @PostMapping("/estate/file")
    String preview(
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        model.addAttribute("text", whole);
        model.addAttribute("read", file.read(whole));
        return "estate-file";
    }

    @PostMapping("/estate/file/apply")
    String apply(@RequestParam String text, @AuthenticationPrincipal Person by, Model model) {
        var read = file.apply(text, by);
        boolean done = read.faults().isEmpty();
        model.addAttribute("text", done ? "" : text);
        model.addAttribute("read", done ? null : read);
        model.addAttribute("done", done ? read.changes().size() : null);
        return "estate-file";
    }
}
