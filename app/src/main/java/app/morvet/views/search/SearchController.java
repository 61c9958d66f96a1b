package app.morvet.views.search;

import app.morvet.ground.page.Finder;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Finds whatever features have to be found, by the words in the field on top of each page. */
@Controller
class SearchController {
    private static final int MOST = 20;
    private static final int LONGEST = 200;

    /** What one finder found. */
    record Group(String name, List<Finder.Hit> hits) {}

    private final List<Finder> finders;

    SearchController(List<Finder> finders) {
        this.finders = finders;
    }

    @GetMapping("/search")
    String search(@RequestParam(defaultValue = "") String q, Model model) {
        var words = q.strip();
        boolean asks = !words.isEmpty() && words.length() <= LONGEST;
        model.addAttribute("q", words);
        model.addAttribute(
                "groups",
                finders.stream()
                        .map(one -> new Group(one.name(), asks ? one.find(words, MOST) : List.of()))
                        .filter(group -> !group.hits().isEmpty())
                        .toList());
        model.addAttribute("hint", finders.stream().map(Finder::hint).collect(Collectors.joining(", or ")));
        return "search";
    }
}
