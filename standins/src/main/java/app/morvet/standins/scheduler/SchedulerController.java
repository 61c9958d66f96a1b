package app.morvet.standins.scheduler;

import app.morvet.standins.StandInSettings;
import java.util.Map;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The panel where a person or a test breaks and mends jobs, and where operators give orders. */
@Controller
class SchedulerController {
    private final Scheduler scheduler;
    private final StandInSettings settings;

    SchedulerController(Scheduler scheduler, StandInSettings settings) {
        this.scheduler = scheduler;
        this.settings = settings;
    }

    @GetMapping("/scheduler")
    String panel(Model model) {
        model.addAttribute("jobs", scheduler.shown());
        model.addAttribute("troubles", Trouble.values());
        model.addAttribute("status", scheduler.status());
        return "scheduler";
    }

    @GetMapping("/scheduler/status")
    @ResponseBody
    Map<String, Object> status() {
        return scheduler.status();
    }

    @PostMapping("/scheduler/{key}/break")
    String breakIt(
            @PathVariable String key, @RequestParam Trouble trouble, @RequestParam(defaultValue = "12") int code) {
        scheduler.breakIt(key, trouble, Math.clamp(code, 1, 255));
        return "redirect:/scheduler";
    }

    @PostMapping("/scheduler/{key}/mend")
    String mend(@PathVariable String key) {
        scheduler.mend(key);
        return "redirect:/scheduler";
    }

    @PostMapping("/scheduler/{key}/finish")
    String finish(@PathVariable String key) {
        scheduler.finish(key);
        return "redirect:/scheduler";
    }

    /** What is asked of the scheduler: {@code rerun}, {@code hold}, {@code release} or {@code kill}. */
    record Order(String order, String job, String run) {}

    /** Where operators give orders. The same key twice carries it out once and answers the same. */
    @PostMapping("/scheduler/api/orders")
    @ResponseBody
    ResponseEntity<?> order(
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key,
            @RequestBody Order order) {
        if (!authorization.equals("Bearer " + settings.deskToken()))
            return ResponseEntity.status(401).body(Map.of("error", "unknown token"));
        if (key.isBlank()) return ResponseEntity.badRequest().body(Map.of("error", "Idempotency-Key is missing"));
        try {
            return ResponseEntity.ok(
                    scheduler.order(order.order(), order.job(), order.run() == null ? "" : order.run(), key));
        } catch (IllegalArgumentException unknown) {
            return ResponseEntity.ok(new RunningJobs.Answer("refused", "", String.valueOf(unknown.getMessage())));
        }
    }

    record Slots(int slots) {}

    /** How many may run at a time. */
    @PostMapping("/scheduler/api/slots")
    @ResponseBody
    ResponseEntity<?> slots(
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization, @RequestBody Slots wanted) {
        if (!authorization.equals("Bearer " + settings.deskToken()))
            return ResponseEntity.status(401).body(Map.of("error", "unknown token"));
        try {
            scheduler.slots(wanted.slots());
            return ResponseEntity.ok(wanted);
        } catch (IllegalArgumentException wrong) {
            return ResponseEntity.badRequest().body(Map.of("error", String.valueOf(wrong.getMessage())));
        }
    }
}
