package app.morvet.work.orders;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.batch.Schedulers;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
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
    private final Connections connections;
    private final Estate estate;
    private final Audit audit;

    SchedulersController(Schedulers schedulers, Connections connections, Estate estate, Audit audit) {
        this.schedulers = schedulers;
        this.connections = connections;
        this.estate = estate;
        this.audit = audit;
    }

    record Row(String feed, String address, String slots) {}

    @GetMapping("/setup/scheduler")
    String page(@RequestParam(defaultValue = "0") long feed, Model model) {
        var one = schedulers.all().stream()
                .filter(it -> feed == 0 || Long.valueOf(feed).equals(it.feed()))
                .findFirst()
                .map(Connection::covered)
                .orElse(Schedulers.connection(feed, "", "http://", "/", "", 0, 0));
        return page(one, Map.of(), model);
    }

    private String page(Connection one, Map<String, String> errors, Model model) {
        model.addAttribute("one", one);
        model.addAttribute("errors", errors);
        model.addAttribute("feeds", estate.feeds());
        model.addAttribute(
                "rows",
                schedulers.all().stream()
                        .map(it -> new Row(
                                it.name(),
                                address(it),
                                Schedulers.slots(it) == 0 ? "not limited" : "" + Schedulers.slots(it)))
                        .toList());
        return "scheduler";
    }

    private static String address(Connection one) {
        return one.address(one.get(Schedulers.PATH));
    }

    private static String describe(Connection one) {
        return address(one) + ", " + Schedulers.slots(one) + " slots";
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
        var name = estate.feed(feed).map(Estate.Feed::name).orElse("");
        boolean counts = slots.strip().matches("\\d{1,4}");
        if (!counts) errors.put("slots", "A whole number from 0 to 9999; 0 where it is not limited.");
        var typed = Schedulers.connection(
                feed,
                name,
                url.strip(),
                path.strip(),
                headers.replace("\r\n", "\n").strip(),
                counts ? Integer.parseInt(slots.strip()) : 0,
                version);
        var before = schedulers.of(feed);
        var next = before.map(typed::keeping).orElse(typed);
        if (name.isEmpty()) errors.put("feed", "Choose the feed by which this scheduler reports.");
        errors.putAll(connections.errors(next));
        Connections.path("path", next.get(Schedulers.PATH), errors);
        if (errors.isEmpty() && !connections.keep(next)) errors.put("", Connections.OVERTAKEN);
        if (errors.isEmpty()) {
            var was = before.map(SchedulersController::describe).orElse(null);
            audit.record(by, "scheduler changed", "feed " + name, was, describe(next));
            return "redirect:/setup/scheduler?saved&feed=" + feed;
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(counts ? typed : typed.with(Schedulers.SLOTS, slots), errors, model);
    }
}
