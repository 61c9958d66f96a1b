package app.morvet.work.orders;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.SecretHeaders;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.batch.Schedulers;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Setup: where the scheduler behind a feed takes orders, and how many jobs it runs at once. */
@Controller
class SchedulersController {
    private final Schedulers schedulers;
    private final Estate estate;
    private final Outgoing outgoing;
    private final Audit audit;

    SchedulersController(Schedulers schedulers, Estate estate, Outgoing outgoing, Audit audit) {
        this.schedulers = schedulers;
        this.estate = estate;
        this.outgoing = outgoing;
        this.audit = audit;
    }

    record Row(String feed, String address, String slots) {}

    @GetMapping("/setup/scheduler")
    String page(@RequestParam(defaultValue = "0") long feed, Model model) {
        var all = schedulers.all();
        long chosen = feed != 0 ? feed : all.isEmpty() ? 0 : all.getFirst().feed();
        var one = schedulers
                .of(chosen)
                .map(it -> new Schedulers.Connection(
                        it.feed(), it.url(), it.path(), SecretHeaders.covered(it.headers()), it.slots(), it.version()))
                .orElse(new Schedulers.Connection(chosen, "http://", "/", "", 0, 0));
        return page(one, all, Map.of(), model);
    }

    private String page(
            Schedulers.Connection one, List<Schedulers.Connection> all, Map<String, String> errors, Model model) {
        model.addAttribute("one", one);
        model.addAttribute("errors", errors);
        model.addAttribute("feeds", estate.feeds());
        model.addAttribute(
                "rows",
                all.stream()
                        .map(it -> new Row(
                                feedName(it.feed()), it.address(), it.slots() == 0 ? "not limited" : "" + it.slots()))
                        .toList());
        return "scheduler";
    }

    private String feedName(long feed) {
        return estate.feed(feed).map(Estate.Feed::name).orElse("");
    }

    @PostMapping("/setup/scheduler")
    @Transactional
    public String save(
            @RequestParam(defaultValue = "0") long feed,
            @RequestParam(defaultValue = "") String url,
            @RequestParam(defaultValue = "") String path,
            @RequestParam(defaultValue = "") String headers,
            @RequestParam(defaultValue = "0") String slots,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var errors = new LinkedHashMap<String, String>();
        int many = slots.strip().matches("\\d{1,4}") ? Integer.parseInt(slots.strip()) : -1;
        if (many < 0) errors.put("slots", "A whole number from 0 to 9999; 0 where it is not limited.");
        var before = schedulers.of(feed);
        var typed = new Schedulers.Connection(
                feed, url.strip(), path.strip(), headers.replace("\r\n", "\n").strip(), Math.max(0, many), version);
        if (feedName(feed).isEmpty()) errors.put("feed", "Choose the feed by which this scheduler reports.");
        try {
            outgoing.check(typed.url());
        } catch (IllegalArgumentException wrong) {
            errors.put("url", String.valueOf(wrong.getMessage()));
        }
        if (!typed.path().startsWith("/")) errors.put("path", "A path begins with /.");
        var kept = SecretHeaders.keeping(
                typed.headers(), before.map(Schedulers.Connection::headers).orElse(""));
        SecretHeaders.fault(kept).ifPresent(words -> errors.put("headers", words));
        if (errors.isEmpty()) {
            var next = new Schedulers.Connection(feed, typed.url(), typed.path(), kept, many, version);
            if (schedulers.keep(next)) {
                audit.record(
                        by,
                        "scheduler changed",
                        "feed " + feedName(feed),
                        before.map(it -> it.address() + ", " + it.slots() + " slots")
                                .orElse(null),
                        next.address() + ", " + next.slots() + " slots");
                return "redirect:/setup/scheduler?saved&feed=" + feed;
            }
            errors.put(
                    "",
                    "Somebody else changed this while you were editing it. Nothing was saved; load the page again to see theirs.");
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, schedulers.all(), errors, model);
    }
}
