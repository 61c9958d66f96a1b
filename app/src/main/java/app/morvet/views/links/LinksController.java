package app.morvet.views.links;

import app.morvet.core.estate.LinkTemplate;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Links out of Morvet: made and removed. */
@Controller
class LinksController {
    /** What somebody typed. */
    record Typed(String about, String subject, String name, String template) {
        static final Typed NOTHING = new Typed("application", "", "", "");
    }

    private final LinksOut links;
    private final Estate estate;

    LinksController(LinksOut links, Estate estate) {
        this.links = links;
        this.estate = estate;
    }

    @GetMapping("/estate/links")
    String all(Model model) {
        return page(Typed.NOTHING, "", model);
    }

    private String page(Typed typed, String refusal, Model model) {
        model.addAttribute("links", links.all());
        model.addAttribute("fillIns", LinkTemplate.PLACES);
        model.addAttribute("applications", estate.applications());
        model.addAttribute("typed", typed);
        model.addAttribute("refusal", refusal.isEmpty() ? null : refusal);
        return "links";
    }

    @PostMapping("/estate/links")
    String add(
            @RequestParam(defaultValue = "") String about,
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String template,
            @AuthenticationPrincipal Person by,
            Model model) {
        try {
            links.add(about, subject, name, template, by);
            return "redirect:/estate/links";
        } catch (IllegalArgumentException wrong) {
            return page(new Typed(about, subject, name, template), String.valueOf(wrong.getMessage()), model);
        }
    }

    @PostMapping("/estate/links/{id}/remove")
    String remove(@PathVariable long id, @AuthenticationPrincipal Person by) {
        links.remove(id, by);
        return "redirect:/estate/links";
    }
}
