package app.morvet.views.upkeep;

import app.morvet.core.guard.Spans;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The feeds by which Morvet hears of the estate, and how each stands. */
@Controller
class FeedsController {
    record Row(
            String name,
            String key,
            String cadence,
            String heard,
            String how,
            boolean stale,
            String failure,
            String failingSince) {}

    private final Estate estate;
    private final Upkeep upkeep;
    private final Times times;

    FeedsController(Estate estate, Upkeep upkeep, Times times) {
        this.estate = estate;
        this.upkeep = upkeep;
        this.times = times;
    }

    @GetMapping("/estate/feeds")
    String feeds(Model model) {
        return page("", "60", "", model);
    }

    private String page(String name, String seconds, String url, Model model) {
        model.addAttribute("typedName", name);
        model.addAttribute("typedSeconds", seconds);
        model.addAttribute("typedUrl", url);
        model.addAttribute("feeds", estate.feeds().stream().map(this::row).toList());
        return "estate-feeds";
    }

    private Row row(Estate.Feed feed) {
        return new Row(
                feed.name(),
                feed.key(),
                Spans.words(feed.cadence()),
                feed.lastHeard() == null ? "never yet" : times.of(feed.lastHeard()),
                feed.fetchUrl() == null ? "sends by itself" : "fetched from " + feed.fetchUrl(),
                feed.stale(times.now()),
                feed.failure(),
                times.of(feed.failingSince()));
    }

    /** Adds a feed: one that sends by itself, or one whose page Morvet fetches. */
    @PostMapping("/estate/feeds")
    String add(
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "60") String seconds,
            @RequestParam(defaultValue = "") String url,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            upkeep.addFeed(name.strip(), seconds.strip(), url.strip(), by);
            return "redirect:/estate/feeds";
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("refusal", wrong.getMessage());
        } catch (DuplicateKeyException taken) {
            model.addAttribute("refusal", "There is a feed of this name already.");
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(name, seconds, url, model);
    }
}
