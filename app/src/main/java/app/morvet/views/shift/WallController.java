package app.morvet.views.shift;

import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The shift on a wall: big, dark, turning its pages by itself, and seen with a key in place of a log-in. */
@Controller
class WallController {
    private static final int ROWS = 8;
    private static final int COMING = 5;
    private static final Duration AHEAD = Duration.ofHours(8);

    record KeyRow(long id, String name, String made, String revoked) {}

    record Ahead(String at, String mark, String words) {}

    private final WallKeys keys;
    private final EstateLook estate;
    private final CaseBook cases;
    private final List<Coming> coming;
    private final MorvetSettings settings;
    private final Times times;

    WallController(
            WallKeys keys,
            EstateLook estate,
            CaseBook cases,
            List<Coming> coming,
            MorvetSettings settings,
            Times times) {
        this.keys = keys;
        this.estate = estate;
        this.cases = cases;
        this.coming = coming;
        this.settings = settings;
        this.times = times;
    }

    /** @param page from 0; after the last comes the first */
    @GetMapping("/wall")
    String wall(
            @RequestParam(defaultValue = "") String key,
            @RequestParam(defaultValue = "0") int page,
            HttpServletResponse response,
            Model model) {
        boolean good = keys.isGood(key);
        model.addAttribute("good", good);
        if (!good) {
            response.setStatus(HttpStatus.UNAUTHORIZED.value());
            return "wall";
        }
        var look = estate.look("", "", cases.openTrouble());
        int pages = Math.max(1, (look.rows().size() + ROWS - 1) / ROWS);
        int shown = Math.floorMod(page, pages);
        var now = times.now();
        model.addAttribute("look", look);
        model.addAttribute(
                "rows",
                look.rows().stream().skip((long) shown * ROWS).limit(ROWS).toList());
        model.addAttribute("page", shown + 1);
        model.addAttribute("pages", pages);
        model.addAttribute("next", "/wall?key=" + key + "&page=" + (shown + 1));
        model.addAttribute("clock", times.of(now));
        model.addAttribute("zoneName", times.zoneName());
        model.addAttribute(
                "coming",
                coming.stream()
                        .flatMap(one -> one.coming(now, now.plus(AHEAD)).stream())
                        .sorted(Comparator.comparing(Coming.Item::at))
                        .limit(COMING)
                        .map(one -> new Ahead(times.of(one.at()), one.mark(), one.words()))
                        .toList());
        return "wall";
    }

    @GetMapping("/shift/walls")
    String list(Model model) {
        return list(null, model);
    }

    private String list(@Nullable String refusal, Model model) {
        model.addAttribute("refusal", refusal);
        model.addAttribute(
                "keys",
                keys.all().stream()
                        .map(one -> new KeyRow(one.id(), one.name(), times.of(one.madeAt()), times.of(one.revokedAt())))
                        .toList());
        return "walls";
    }

    @PostMapping("/shift/walls")
    String make(
            @RequestParam(defaultValue = "") String name,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            model.addAttribute("made", settings.link("/wall?key=" + keys.make(name, by)));
            return list(null, model);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return list(Sentence.of(wrong), model);
        }
    }

    @PostMapping("/shift/walls/{id}/revoke")
    String revoke(@PathVariable long id, @AuthenticationPrincipal Person by) {
        keys.revoke(id, by);
        return "redirect:/shift/walls";
    }
}
