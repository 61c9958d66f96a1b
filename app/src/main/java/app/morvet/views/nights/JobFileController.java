package app.morvet.views.nights;

import app.morvet.ground.access.Person;
import app.morvet.ground.page.Files;
import app.morvet.sources.batch.JobBook;
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

/** The jobs as a file: out, and in with a look before. */
@Controller
class JobFileController {
    private final JobFile file;
    private final JobBook jobs;

    JobFileController(JobFile file, JobBook jobs) {
        this.file = file;
        this.jobs = jobs;
    }

    @GetMapping("/batch/file")
    String page(Model model) {
        model.addAttribute("text", "");
        model.addAttribute("kind", "");
        return "job-file";
    }

    @GetMapping("/batch/file/jobs.txt")
    ResponseEntity<byte[]> crontab() {
        return out("jobs.txt", "text/plain", JobFile.Kind.CRONTAB);
    }

    @GetMapping("/batch/file/jobs.csv")
    ResponseEntity<byte[]> csv() {
        return out("jobs.csv", "text/csv", JobFile.Kind.CSV);
    }

    @GetMapping("/batch/file/jobs.json")
    ResponseEntity<byte[]> json() {
        return out("jobs.json", "application/json", JobFile.Kind.JSON);
    }

    private ResponseEntity<byte[]> out(String name, String type, JobFile.Kind kind) {
        return Files.out(name, type, file.write(kind));
    }

    @PostMapping("/batch/file")
    String preview(
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "") String kind,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        fill(whole, kind, model);
        return "job-file";
    }

    private JobFile.Read fill(String text, String asked, Model model) {
        var kind = JobFile.Kind.of(asked, text);
        var read = file.read(kind, text);
        model.addAttribute("text", text);
        model.addAttribute("kind", kind.key());
        model.addAttribute("read", read);
        return read;
    }

    @PostMapping("/batch/file/apply")
    String apply(
            @RequestParam String text, @RequestParam String kind, @AuthenticationPrincipal Person by, Model model) {
        var read = fill(text, kind, model);
        if (!read.faults().isEmpty()) return "job-file";
        try {
            jobs.agree(read.agreements(), by);
        } catch (JobBook.Overtaken | IllegalArgumentException refused) {
            model.addAttribute("refusal", refused.getMessage());
            return "job-file";
        }
        return "redirect:/batch/jobs?q=";
    }
}
