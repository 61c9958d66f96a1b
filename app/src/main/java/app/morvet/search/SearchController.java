package app.morvet.search;

import app.morvet.cases.CaseBook;
import app.morvet.estate.Estate;
import app.morvet.messages.MessageStore;
import app.morvet.messages.MessageViews;
import app.morvet.page.Times;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Finds cases by number or words, interfaces by name, and failed messages by their business key. */
@Controller
class SearchController {
    private static final int MOST = 20;

    record Hit(String link, String words, String beside) {}

    private final CaseBook cases;
    private final Estate estate;
    private final MessageStore messages;
    private final MessageViews views;
    private final Times times;

    SearchController(CaseBook cases, Estate estate, MessageStore messages, MessageViews views, Times times) {
        this.cases = cases;
        this.estate = estate;
        this.messages = messages;
        this.views = views;
        this.times = times;
    }

    @GetMapping("/search")
    String search(@RequestParam(defaultValue = "") String q, Model model) {
        var words = q.strip();
        boolean blank = words.isEmpty() || words.length() > 200;
        model.addAttribute("q", words);
        model.addAttribute(
                "cases",
                blank
                        ? List.of()
                        : cases.search(words, MOST).stream()
                                .map(one -> new Hit(
                                        "/cases/" + one.id(),
                                        one.headline(),
                                        one.state().words() + " · " + times.of(one.openedAt())))
                                .toList());
        model.addAttribute(
                "interfaces",
                blank
                        ? List.of()
                        : estate.components().stream()
                                .filter(one ->
                                        one.name().toLowerCase(Locale.ROOT).contains(words.toLowerCase(Locale.ROOT)))
                                .limit(MOST)
                                .map(SearchController::component)
                                .toList());
        model.addAttribute(
                "messages",
                blank
                        ? List.of()
                        : messages.byKey(words, MOST).stream()
                                .map(views::row)
                                .map(row -> new Hit(
                                        "/messages/" + row.id(), row.businessKey(), row.at() + " · " + row.firstLine()))
                                .toList());
        return "search";
    }

    private static Hit component(Estate.Component one) {
        return switch (one.kind()) {
            case Estate.INTERFACE -> new Hit("/messages/interfaces/" + one.key(), one.name(), "");
            case Estate.JOB -> new Hit("/batch/jobs/" + one.key(), one.name(), one.kind());
            default -> new Hit("/estate/components/" + one.key(), one.name(), one.kind());
        };
    }
}
