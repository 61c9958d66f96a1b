package app.morvet.standins.hub;

import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
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

/** The panel where a person or a test breaks and mends interfaces. */
@Controller
class HubController {
    private final Hub hub;
    private final StandInSettings settings;

    HubController(Hub hub, StandInSettings settings) {
        this.hub = hub;
        this.settings = settings;
    }

    @GetMapping("/hub")
    String panel(Model model) {
        model.addAttribute("carriers", hub.shown());
        model.addAttribute("faults", Fault.values());
        model.addAttribute("status", hub.status());
        return "hub";
    }

    @GetMapping("/hub/status")
    @ResponseBody
    Map<String, Object> status() {
        return hub.status();
    }

    @PostMapping("/hub/{key}/break")
    String breakIt(@PathVariable String key, @RequestParam Fault fault) {
        hub.breakIt(key, fault);
        return "redirect:/hub";
    }

    @PostMapping("/hub/{key}/mend")
    String mend(@PathVariable String key) {
        hub.mend(key);
        return "redirect:/hub";
    }

    @PostMapping("/hub/{key}/carry")
    String carry(@PathVariable String key, @RequestParam(defaultValue = "15") int count)
            throws ToMorvet.NotTaken, InterruptedException {
        hub.carryNow(key, Math.clamp(count, 1, 50_000));
        return "redirect:/hub";
    }

    @PostMapping("/hub/{key}/deploy")
    String deploy(
            @PathVariable String key,
            @RequestParam String state,
            @RequestParam(defaultValue = "") String version,
            @RequestParam(defaultValue = "") String reason)
            throws ToMorvet.NotTaken, InterruptedException {
        hub.deploy(key, state, version, reason);
        return "redirect:/hub";
    }

    @PostMapping("/hub/{key}/fail-next")
    String failNext(@PathVariable String key, @RequestParam int count) {
        hub.failNext(key, Math.clamp(count, 0, 50_000));
        return "redirect:/hub";
    }

    @PostMapping("/hub/storm")
    String storm(@RequestParam(defaultValue = "50000") int count) throws ToMorvet.NotTaken, InterruptedException {
        hub.storm(Math.clamp(count, 1, 200_000));
        return "redirect:/hub";
    }

    /** What is asked for a message that is to be sent again. */
    record Again(String message, String carrier) {}

    /** Where operators send a message again. The same key twice sends it once and answers the same. */
    @PostMapping("/hub/api/send-again")
    @ResponseBody
    ResponseEntity<?> sendAgain(
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key,
            @RequestBody Again again) {
        if (!authorization.equals("Bearer " + settings.deskToken()))
            return ResponseEntity.status(401).body(Map.of("error", "unknown token"));
        if (key.isBlank()) return ResponseEntity.badRequest().body(Map.of("error", "Idempotency-Key is missing"));
        return ResponseEntity.ok(hub.sendAgain(again.message(), again.carrier(), key));
    }
}
