package app.morvet.ground.access;

import app.morvet.ground.estate.Estate;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Setup: the keys by which feeds send. */
@Controller
class KeysController {
    private final IntakeKeys keys;
    private final Estate estate;

    KeysController(IntakeKeys keys, Estate estate) {
        this.keys = keys;
        this.estate = estate;
    }

    @GetMapping("/setup")
    String setup() {
        return "redirect:/setup/desk";
    }

    @GetMapping("/setup/keys")
    String list(Model model) {
        model.addAttribute("keys", keys.all());
        model.addAttribute("feeds", estate.feeds());
        return "keys";
    }

    @PostMapping("/setup/keys")
    String make(
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "0") long feed,
            @AuthenticationPrincipal Person by,
            Model model) {
        boolean known = estate.feeds().stream().anyMatch(one -> one.id() == feed);
        if (name.isBlank() || name.length() > 100 || !known) {
            model.addAttribute("refusal", "A key needs a name of at most 100 characters and a feed that it is for.");
            model.addAttribute("typed", name);
        } else {
            model.addAttribute("made", keys.make(name.strip(), feed, by));
        }
        return list(model);
    }

    @PostMapping("/setup/keys/{id}/revoke")
    String revoke(@PathVariable long id, @AuthenticationPrincipal Person by) {
        keys.revoke(id, by);
        return "redirect:/setup/keys";
    }
}
