package app.morvet.work.mending;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
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

/** Setup: where the middleware behind a feed takes the order to send a message again. */
@Controller
class MiddlewareController {
    private final Connections connections;
    private final Estate estate;
    private final Audit audit;

    MiddlewareController(Connections connections, Estate estate, Audit audit) {
        this.connections = connections;
        this.estate = estate;
        this.audit = audit;
    }

    record Row(String feed, String address) {}

    @GetMapping("/setup/middleware")
    String page(@RequestParam(defaultValue = "0") long feed, Model model) {
        var all = connections.of(MiddlewareSetup.SORT);
        var one = all.stream()
                .filter(it -> feed == 0 || Long.valueOf(feed).equals(it.feed()))
                .findFirst()
                .map(Connection::covered)
                .orElse(MiddlewareSetup.connection(feed, "", "http://", "/", "", 0));
        return page(one, Map.of(), model);
    }

    private String page(Connection one, Map<String, String> errors, Model model) {
        model.addAttribute("one", one);
        model.addAttribute("errors", errors);
        model.addAttribute("feeds", estate.feeds());
        model.addAttribute(
                "connections",
                connections.of(MiddlewareSetup.SORT).stream()
                        .map(it -> new Row(it.name(), address(it)))
                        .toList());
        return "middleware";
    }

    private static String address(Connection one) {
        return one.address(one.get(MiddlewareSetup.PATH));
    }

    @PostMapping("/setup/middleware")
    @Transactional
    public String save(
            @RequestParam(defaultValue = "0") long feed,
            @RequestParam(defaultValue = "") String url,
            @RequestParam(defaultValue = "") String sendPath,
            @RequestParam(defaultValue = "") String headers,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var name = estate.feed(feed).map(Estate.Feed::name).orElse("");
        var typed = MiddlewareSetup.connection(
                feed,
                name,
                url.strip(),
                sendPath.strip(),
                headers.replace("\r\n", "\n").strip(),
                version);
        var before = connections.ofFeed(MiddlewareSetup.SORT, feed);
        var next = before.map(typed::keeping).orElse(typed);
        var errors = new LinkedHashMap<String, String>();
        if (name.isEmpty()) errors.put("feed", "Choose the feed by which this middleware reports.");
        errors.putAll(connections.errors(next));
        Connections.path("sendPath", next.get(MiddlewareSetup.PATH), errors);
        if (errors.isEmpty() && !connections.keep(next)) errors.put("", Connections.OVERTAKEN);
        if (errors.isEmpty()) {
            var was = before.map(MiddlewareController::address).orElse(null);
            audit.record(by, "middleware changed", "feed " + name, was, address(next));
            return "redirect:/setup/middleware?saved&feed=" + feed;
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, errors, model);
    }
}
