package app.morvet.standins.hub;

import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The panel where a person or a test breaks and mends interfaces. */
@Controller
class HubController {
    private final Hub hub;

    HubController(Hub hub) {
        this.hub = hub;
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
            throws Reporter.NotTaken, InterruptedException {
        hub.carryNow(key, Math.clamp(count, 1, 50_000));
        return "redirect:/hub";
    }
}
