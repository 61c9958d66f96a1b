package app.morvet.standins.machines;

import java.util.Map;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The collectors' pages, and the panel where a person or a test makes machines ill and well. */
@Controller
class MachinesController {
    private final Machines machines;

    MachinesController(Machines machines) {
        this.machines = machines;
    }

    @GetMapping("/machines")
    String panel(Model model) {
        model.addAttribute("machines", machines.shown());
        return "machines";
    }

    @GetMapping("/machines/status")
    @ResponseBody
    Map<String, Object> status() {
        return machines.status();
    }

    @GetMapping("/machines/{collector}/metrics")
    ResponseEntity<String> page(@PathVariable String collector) {
        // Until the past is told a live page would come before it; a collector that catches up says so.
        if (!machines.caughtUp())
            return ResponseEntity.status(503).header("Retry-After", "2").body("catching up\n");
        return ResponseEntity.ok().header("Content-Type", Pages.TYPE).body(machines.page(collector));
    }

    @PostMapping("/machines/{key}/ail")
    String ail(@PathVariable String key, @RequestParam Ailment ailment) {
        machines.ail(key, ailment);
        return "redirect:/machines";
    }

    @PostMapping("/machines/{key}/heal")
    String heal(@PathVariable String key) {
        machines.heal(key);
        return "redirect:/machines";
    }
}
