package app.morvet.standins.works;

import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The harbour's calendar, and the panel where a person or a test plans work, moves it and calls it off. */
@Controller
class WorksController {
    record Row(String id, String title, String place, String when, String rule, boolean off) {}

    private final Works works;

    WorksController(Works works) {
        this.works = works;
    }

    @GetMapping("/works")
    String panel(Model model) {
        model.addAttribute(
                "works",
                works.all().stream()
                        .map(one -> new Row(one.id(), one.title(), one.place(), Works.when(one), one.rule(), one.off()))
                        .toList());
        return "works";
    }

    @GetMapping("/works/harbour.ics")
    ResponseEntity<String> calendar() {
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("text/calendar;charset=UTF-8"))
                .body(works.calendar());
    }

    @PostMapping("/works")
    String plan(
            @RequestParam(defaultValue = "Works") String title,
            @RequestParam(defaultValue = "") String place,
            @RequestParam(defaultValue = "60") int in,
            @RequestParam(defaultValue = "60") int minutes) {
        works.add(title, place, Math.clamp(in, -10_000, 100_000), Math.clamp(minutes, 1, 10_000));
        return "redirect:/works";
    }

    @PostMapping("/works/{id}")
    String change(
            @PathVariable String id,
            @RequestParam(defaultValue = "0") int by,
            @RequestParam(defaultValue = "false") boolean off) {
        works.change(id, Math.clamp(by, -10_000, 10_000), off);
        return "redirect:/works";
    }
}
