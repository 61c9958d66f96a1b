package app.morvet.standins.endpoints;

import app.morvet.standins.endpoints.Endpoints.Mood;
import java.time.Duration;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The endpoints themselves, and their panel. */
@Controller
class EndpointsController {
    private static final Duration SLOW = Duration.ofSeconds(3);
    private static final Duration FOR_LONG = Duration.ofSeconds(30);

    /** One endpoint as the panel shows it. */
    record Shown(String key, String name, Mood mood) {}

    private final Endpoints endpoints;

    EndpointsController(Endpoints endpoints) {
        this.endpoints = endpoints;
    }

    @GetMapping("/endpoints")
    String panel(Model model) {
        model.addAttribute(
                "endpoints",
                endpoints.all().entrySet().stream()
                        .map(one -> new Shown(one.getKey(), one.getValue(), endpoints.mood(one.getKey())))
                        .toList());
        model.addAttribute("moods", Mood.values());
        return "endpoints";
    }

    @GetMapping("/endpoints/{key}")
    ResponseEntity<String> answer(@PathVariable String key) throws InterruptedException {
        switch (endpoints.mood(key)) {
            case SLOW -> Thread.sleep(SLOW);
            case HANGS -> Thread.sleep(FOR_LONG);
            case BROKEN -> {
                return ResponseEntity.status(503).body("out of order");
            }
            default -> {
                // it answers at once
            }
        }
        return ResponseEntity.ok()
                .contentType(key.equals("booking-site") ? MediaType.TEXT_HTML : MediaType.APPLICATION_JSON)
                .body(endpoints.body(key));
    }

    @PostMapping("/endpoints/{key}/mood")
    String set(@PathVariable String key, @RequestParam Mood mood) {
        endpoints.set(key, mood);
        return "redirect:/endpoints";
    }
}
