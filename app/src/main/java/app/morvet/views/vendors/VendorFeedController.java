package app.morvet.views.vendors;

import app.morvet.core.vendors.FeedSettings;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.vendors.VendorFeeds;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** How a feed of a vendor is read: a connection, with what its words mean. */
@Controller
class VendorFeedController {
    /** A setting that is one line: its name, and what it is. */
    record Line(String name, String label) {}

    private static final List<Line> LINES = List.of(
            new Line("state", "The word of the whole"),
            new Line("parts", "The list of its parts"),
            new Line("partName", "In a part, its name"),
            new Line("partState", "In a part, its word"),
            new Line("time", "When the answer was made"),
            new Line("bulletins", "The list of bulletins"),
            new Line("bulletin-id", "In a bulletin, its id"),
            new Line("bulletin-title", "its title"),
            new Line("bulletin-text", "its text"),
            new Line("bulletin-kind", "what kind it is"),
            new Line("bulletin-in", "what it is in"),
            new Line("bulletin-from", "its begin"),
            new Line("bulletin-to", "its end"),
            new Line("bulletin-parts", "the parts it is about"));

    private static final List<String> OTHERS = List.of("shape", "words", "planned", "over");

    private final Connections connections;
    private final VendorFeeds feeds;
    private final Estate estate;
    private final Audit audit;

    VendorFeedController(Connections connections, VendorFeeds feeds, Estate estate, Audit audit) {
        this.connections = connections;
        this.feeds = feeds;
        this.estate = estate;
        this.audit = audit;
    }

    @GetMapping("/vendors/{key}/feeds/{id}")
    String edit(@PathVariable String key, @PathVariable String id, Model model) {
        var one = id.equals("new")
                ? new Connection(
                        0,
                        VendorFeeds.SORT,
                        "",
                        null,
                        "",
                        "https://",
                        "",
                        "",
                        Map.of("shape", "json", VendorFeeds.EVERY, "60"),
                        0)
                : find(id).covered();
        return page(key, one, null, Map.of(), model);
    }

    private String page(String key, Connection one, @Nullable String refusal, Map<String, String> errors, Model model) {
        model.addAttribute("component", component(key));
        model.addAttribute("one", one);
        model.addAttribute("lines", LINES);
        model.addAttribute("shapes", FeedSettings.Shape.values());
        model.addAttribute("refusal", refusal);
        model.addAttribute("errors", errors);
        return "vendor-feed";
    }

    private Estate.Component component(String key) {
        return estate.byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
    }

    private Connection find(String id) {
        return (id.matches("\\d{1,18}") ? connections.byId(Long.parseLong(id)) : java.util.Optional.<Connection>empty())
                .filter(one -> one.sort().equals(VendorFeeds.SORT))
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no feed " + id + "."));
    }

    @PostMapping("/vendors/{key}/feeds/{id}")
    String save(
            @PathVariable String key,
            @PathVariable String id,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var component = component(key);
        var before = id.equals("new") ? null : find(id);
        var settings = new LinkedHashMap<String, String>();
        LINES.forEach(line -> settings.put(line.name(), given(sent, line.name())));
        OTHERS.forEach(name -> settings.put(name, given(sent, name)));
        settings.put(VendorFeeds.COMPONENT, component.key());
        settings.put(VendorFeeds.EVERY, given(sent, VendorFeeds.EVERY));
        var name = given(sent, "name");
        var typed = new Connection(
                before == null ? 0 : before.id(),
                VendorFeeds.SORT,
                before == null ? component.key() + " " + name : before.key(),
                null,
                name,
                given(sent, "url"),
                given(sent, "headers"),
                "",
                settings,
                before == null ? 0 : whole(given(sent, "version")));
        try {
            var one = before == null ? typed : typed.keeping(before);
            if (name.isEmpty() || name.length() > 100)
                throw new IllegalArgumentException("a feed has a name of at most 100 letters");
            int every = whole(given(sent, VendorFeeds.EVERY));
            if (every < 10 || every > 86_400)
                throw new IllegalArgumentException("it is looked at every 10 to 86400 seconds");
            FeedSettings.of(settings);
            var errors = connections.errors(one);
            if (errors.isEmpty() && !connections.keep(one)) throw new IllegalArgumentException(Connections.OVERTAKEN);
            if (errors.isEmpty()) {
                audit.record(
                        by,
                        before == null ? "vendor feed made" : "vendor feed changed",
                        "vendor feed " + name,
                        null,
                        one.url());
                feeds.lookAgain();
                return "redirect:/vendors/" + key;
            }
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(key, typed, null, errors, model);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(key, typed, Sentence.of(wrong), Map.of(), model);
        }
    }

    private static int whole(String text) {
        return text.matches("\\d{1,9}") ? Integer.parseInt(text) : 0;
    }

    private static String given(Map<String, String> sent, String name) {
        return sent.getOrDefault(name, "").strip();
    }
}
