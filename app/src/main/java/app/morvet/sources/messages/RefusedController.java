package app.morvet.sources.messages;

import app.morvet.sources.intake.RejectStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What was refused at the door, so that nothing vanishes. */
@Controller
class RefusedController {
    private static final int PAGE = 40;

    private final RejectStore rejects;

    RefusedController(RejectStore rejects) {
        this.rejects = rejects;
    }

    @GetMapping("/messages/refused")
    String refused(@RequestParam(defaultValue = "" + Long.MAX_VALUE) long before, Model model) {
        var page = rejects.page(before, PAGE + 1);
        model.addAttribute("rejects", page.stream().limit(PAGE).toList());
        model.addAttribute("next", page.size() > PAGE ? page.get(PAGE - 1).id() : null);
        return "refused";
    }
}
