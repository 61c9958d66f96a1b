package app.morvet.standins.vendors;

import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The feeds of the vendors, the instances that are rented from them, and the panel where a person or a test plays the vendor. */
@Controller
class VendorsController {
    private static final Duration SLOW = Duration.ofSeconds(3);

    /** One vendor as the panel shows it. */
    record Shown(Vendor vendor, Truth truth) {}

    private final Vendors vendors;
    private final Feeds feeds;
    private final Clock clock;

    VendorsController(Vendors vendors, Feeds feeds, Clock clock) {
        this.vendors = vendors;
        this.feeds = feeds;
        this.clock = clock;
    }

    @GetMapping("/vendors")
    String panel(Model model) {
        model.addAttribute(
                "vendors",
                Arrays.stream(Vendor.values())
                        .map(one -> new Shown(one, vendors.of(one)))
                        .toList());
        model.addAttribute("feeds", Truth.Feed.values());
        model.addAttribute("levels", List.of("serves", "serves slowly", "does not serve"));
        return "vendors";
    }

    private ResponseEntity<String> feed(Vendor one, String type, Supplier<String> body) {
        if (vendors.of(one).feed() == Truth.Feed.BROKEN)
            return ResponseEntity.status(502)
                    .contentType(MediaType.TEXT_HTML)
                    .body("<html><body><h1>502</h1></body></html>");
        return ResponseEntity.ok().contentType(MediaType.parseMediaType(type)).body(body.get());
    }

    @GetMapping("/vendors/ostrevia/state.json")
    ResponseEntity<String> ostrevia() {
        return feed(Vendor.OSTREVIA, "application/json", feeds::ostrevia);
    }

    @GetMapping("/vendors/pellaroo/news.atom")
    ResponseEntity<String> pellaroo() {
        return feed(Vendor.PELLAROO, "application/atom+xml;charset=UTF-8", feeds::pellaroo);
    }

    @GetMapping("/vendors/markentide/pulse.json")
    ResponseEntity<String> markentide() {
        return feed(Vendor.MARKENTIDE, "application/json", feeds::markentide);
    }

    @GetMapping("/vendors/markentide/works.ics")
    ResponseEntity<String> works() {
        return feed(Vendor.MARKENTIDE, "text/calendar;charset=UTF-8", feeds::works);
    }

    /** The instance itself, as those who need it meet it. */
    @GetMapping("/vendors/{key}/instance")
    ResponseEntity<String> instance(@PathVariable String key) throws InterruptedException {
        int level = vendors.of(Vendor.of(key)).level();
        if (level == 1) Thread.sleep(SLOW);
        return level == 2
                ? ResponseEntity.status(503).body("out of order")
                : ResponseEntity.ok().contentType(MediaType.APPLICATION_JSON).body("{\"open\":true}");
    }

    @PostMapping("/vendors/{key}/level")
    String level(
            @PathVariable String key, @RequestParam int level, @RequestParam(defaultValue = "false") boolean lying) {
        vendors.set(Vendor.of(key), Math.clamp(level, 0, 2), lying);
        return "redirect:/vendors";
    }

    @PostMapping("/vendors/{key}/feed")
    String feed(@PathVariable String key, @RequestParam Truth.Feed feed) {
        vendors.feed(Vendor.of(key), feed);
        return "redirect:/vendors";
    }

    @PostMapping("/vendors/{key}/plan")
    String plan(
            @PathVariable String key,
            @RequestParam(defaultValue = "Planned work") String title,
            @RequestParam(defaultValue = "60") int in,
            @RequestParam(defaultValue = "60") int minutes) {
        var from = clock.instant()
                .truncatedTo(java.time.temporal.ChronoUnit.MINUTES)
                .plus(Duration.ofMinutes(in));
        vendors.plan(Vendor.of(key), title, from, Math.clamp(minutes, 1, 10_000));
        return "redirect:/vendors";
    }

    @PostMapping("/vendors/{key}/notes/{id}")
    String change(
            @PathVariable String key,
            @PathVariable String id,
            @RequestParam(defaultValue = "60") int by,
            @RequestParam(defaultValue = "false") boolean off) {
        vendors.change(Vendor.of(key), id, by, off);
        return "redirect:/vendors";
    }
}
