package app.morvet.standins.beats;

import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The panel of what says that it is alive. */
@Controller
class BeatsController {
    record Shown(String key, long minutes, boolean beats) {}

    private final Beats beats;

    BeatsController(Beats beats) {
        this.beats = beats;
    }

    private List<Shown> shown() {
        return Beats.ALL.entrySet().stream()
                .map(one -> new Shown(one.getKey(), one.getValue().toMinutes(), beats.beats(one.getKey())))
                .toList();
    }

    @GetMapping("/beats")
    String panel(Model model) {
        model.addAttribute("beats", shown());
        return "beats";
    }

    @PostMapping("/beats/{key}")
    String set(@PathVariable String key, @RequestParam boolean alive) {
        beats.set(key, alive);
        return "redirect:/beats";
    }
}
