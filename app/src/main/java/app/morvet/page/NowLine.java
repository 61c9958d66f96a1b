package app.morvet.page;

import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The thin line under the head of every page: the time, and only what needs eyes. */
@Controller
class NowLine {
    private final List<NowSource> sources;

    NowLine(List<NowSource> sources) {
        this.sources = sources;
    }

    List<NowSource.NowItem> items() {
        return sources.stream().flatMap(source -> source.now().stream()).toList();
    }

    @GetMapping("/now")
    String now(Model model) {
        model.addAttribute("nowItems", items());
        return "layout :: nowline";
    }
}
