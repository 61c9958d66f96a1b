package app.morvet.work.mending;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.SecretHeaders;
import app.morvet.ground.estate.Estate;
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

/** Setup: where the middleware behind a feed takes the order to send a message again. */
@Controller
class MiddlewareController {
    private final SendingStore store;
    private final Estate estate;
    private final Outgoing outgoing;
    private final Audit audit;

    MiddlewareController(SendingStore store, Estate estate, Outgoing outgoing, Audit audit) {
        this.store = store;
        this.estate = estate;
        this.outgoing = outgoing;
        this.audit = audit;
    }

    record Row(String feed, String address) {}

    @GetMapping("/setup/middleware")
    String page(@RequestParam(defaultValue = "0") long feed, Model model) {
        var connections = store.connections();
        long chosen = feed != 0
                ? feed
                : connections.isEmpty() ? 0 : connections.getFirst().feed();
        var one = store.connection(chosen)
                .map(SendingStore.Connection::covered)
                .orElse(new SendingStore.Connection(chosen, "http://", "/", "", 0));
        return page(one, connections, Map.of(), model);
    }

    private String page(
            SendingStore.Connection one,
            List<SendingStore.Connection> connections,
            Map<String, String> errors,
            Model model) {
        model.addAttribute("one", one);
        model.addAttribute("errors", errors);
        model.addAttribute("feeds", estate.feeds());
        model.addAttribute(
                "connections",
                connections.stream()
                        .map(it -> new Row(feedName(it.feed()), it.address()))
                        .toList());
        return "middleware";
    }

    private String feedName(long feed) {
        return estate.feeds().stream()
                .filter(one -> one.id() == feed)
                .findFirst()
                .map(Estate.Feed::name)
                .orElse("");
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
        var typed = new SendingStore.Connection(
                feed,
                url.strip(),
                sendPath.strip(),
                headers.replace("\r\n", "\n").strip(),
                version);
        var before = store.connection(feed);
        var next = before.map(typed::keeping).orElse(typed);
        var errors = errors(next);
        if (errors.isEmpty()) {
            if (store.keep(next)) {
                audit.record(
                        by,
                        "middleware changed",
                        "feed " + feedName(feed),
                        before.map(SendingStore.Connection::address).orElse(null),
                        next.address());
                return "redirect:/setup/middleware?saved&feed=" + feed;
            }
            errors.put(
                    "",
                    "Somebody else changed this while you were editing it. Nothing was saved; load the page again to see theirs.");
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, store.connections(), errors, model);
    }

    private Map<String, String> errors(SendingStore.Connection one) {
        var errors = new LinkedHashMap<String, String>();
        if (feedName(one.feed()).isEmpty()) errors.put("feed", "Choose the feed by which this middleware reports.");
        try {
            outgoing.check(one.url());
        } catch (IllegalArgumentException wrong) {
            errors.put("url", String.valueOf(wrong.getMessage()));
        }
        if (!one.sendPath().startsWith("/")) errors.put("sendPath", "A path begins with /.");
        SecretHeaders.fault(one.headers()).ifPresent(words -> errors.put("headers", words));
        return errors;
    }
}
