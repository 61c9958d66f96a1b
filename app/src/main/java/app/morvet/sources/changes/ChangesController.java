package app.morvet.sources.changes;

import app.morvet.ground.page.Times;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** What became different in the estate, the newest first. */
@Controller
class ChangesController {
    private static final int PAGE = 100;
    private static final List<Integer> DAYS = List.of(1, 7, 30, 400);

    private final Changes changes;
    private final ChangeViews views;
    private final Times times;

    ChangesController(Changes changes, ChangeViews views, Times times) {
        this.changes = changes;
        this.views = views;
        this.times = times;
    }

    @GetMapping("/estate/changes")
    String list(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "7") String days,
            @RequestParam(defaultValue = "") String before,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        int span =
                DAYS.stream().filter(one -> days.equals("" + one)).findFirst().orElse(7);
        var now = times.now();
        var found = changes.latest(
                q,
                now.minus(Duration.ofDays(span)),
                now.plus(Duration.ofHours(1)),
                before.matches("\\d{1,18}") ? Long.parseLong(before) : 0,
                PAGE + 1);
        model.addAttribute("rows", views.rows(found.stream().limit(PAGE).toList()));
        model.addAttribute("next", found.size() > PAGE ? found.get(PAGE - 1).id() : null);
        model.addAttribute("q", q);
        model.addAttribute("days", span);
        model.addAttribute("spans", DAYS);
        return "changes-rows".equals(target) ? "changes :: rows" : "changes";
    }
}
