package app.morvet.work.cases;

import app.morvet.ground.tracks.TimePictures;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The picture of time of a case, moved and zoomed. */
@Controller
class TimeController {
    private final CaseStore store;
    private final CasePicture picture;

    TimeController(CaseStore store, CasePicture picture) {
        this.store = store;
        this.picture = picture;
    }

    @GetMapping("/cases/{id}/time")
    String time(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            Model model) {
        var one = store.byId(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no case " + id + "."));
        model.addAttribute("time", picture.of(one, TimePictures.asked(from, to)));
        return "time-parts :: picture";
    }
}
