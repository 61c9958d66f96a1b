package app.morvet.work.channels;

import app.morvet.core.callouts.CallTemplate;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import com.jayway.jsonpath.InvalidPathException;
import com.jayway.jsonpath.JsonPath;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Setup: by what people are told besides mail. */
@Controller
class ChannelsController {
    record Row(long id, String name, String sort, String address) {}

    private final Connections connections;
    private final Channels channels;
    private final SystemLog systemLog;
    private final Audit audit;

    ChannelsController(Connections connections, Channels channels, SystemLog systemLog, Audit audit) {
        this.connections = connections;
        this.channels = channels;
        this.systemLog = systemLog;
        this.audit = audit;
    }

    @GetMapping("/setup/channels")
    String list(Model model) {
        var rows = new ArrayList<Row>();
        Channels.SORTS.forEach((sort, words) -> {
            for (var one : connections.of(sort)) rows.add(new Row(one.id(), one.name(), words, address(one)));
        });
        model.addAttribute("rows", rows);
        model.addAttribute("shapes", Channels.SHAPES.keySet());
        return "channels";
    }

    private static String address(Connection one) {
        return one.sort().equals(LineFile.SORT) ? one.get(LineFile.FILE) : one.address(one.get(TextGateway.PATH));
    }

    /** @param shape of which of those that are ready-made a new one is */
    @GetMapping("/setup/channels/one")
    String one(@RequestParam(defaultValue = "0") long id, @RequestParam(defaultValue = "") String shape, Model model) {
        var one = id == 0 ? channels.fresh(shape) : find(id).covered();
        return page(one, Map.of(), model);
    }

    private Connection find(long id) {
        return connections
                .byId(id)
                .filter(one -> Channels.SORTS.containsKey(one.sort()))
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no channel " + id + "."));
    }

    private static String page(Connection one, Map<String, String> errors, Model model) {
        model.addAttribute("one", one);
        model.addAttribute("errors", errors);
        model.addAttribute("web", one.sort().equals(WebCalls.SORT));
        model.addAttribute("methods", new TreeSet<>(WebCalls.METHODS));
        model.addAttribute("variables", new TreeSet<>(variables(one)));
        return "channel";
    }

    private static Set<String> variables(Connection one) {
        return one.sort().equals(WebCalls.SORT) ? Outside.FACTS : TextGateway.VARIABLES;
    }

    @PostMapping("/setup/channels/one")
    @Transactional
    public String save(
            @RequestParam(defaultValue = "0") long id,
            @RequestParam(defaultValue = "") String sort,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var before = id == 0 ? null : find(id);
        var kind = before != null ? before.sort() : Channels.SORTS.containsKey(sort) ? sort : TextGateway.SORT;
        var typed = typed(id, kind, before, version, sent);
        var next = before == null ? typed : typed.keeping(before);
        var errors = errors(next);
        if (errors.isEmpty() && !connections.keep(next)) errors.put("", Connections.OVERTAKEN);
        if (errors.isEmpty()) {
            var kept = connections.byKey(kind, next.key()).orElseThrow();
            audit.record(
                    by,
                    "channel changed",
                    "channel " + next.name(),
                    before == null ? null : address(before),
                    address(next));
            return "redirect:/setup/channels/one?saved&id=" + kept.id();
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, errors, model);
    }

    private static Connection typed(
            long id, String sort, @Nullable Connection before, int version, Map<String, String> sent) {
        var settings = new LinkedHashMap<String, String>();
        for (var name : Channels.settings(sort)) settings.put(name, given(sent, name));
        return new Connection(
                id,
                sort,
                before == null ? Channels.key() : before.key(),
                null,
                given(sent, "name"),
                given(sent, "url"),
                given(sent, "headers"),
                given(sent, "secret"),
                settings,
                version);
    }

    private Map<String, String> errors(Connection next) {
        var errors = new LinkedHashMap<String, String>();
        if (next.name().isBlank() || next.name().length() > 100)
            errors.put("name", "A channel has a name of at most 100 letters.");
        switch (next.sort()) {
            case LineFile.SORT -> check("file", () -> LineFile.check(next.get(LineFile.FILE)), errors);
            case SystemLog.SORT -> check("url", () -> systemLog.check(next.url()), errors);
            default -> webErrors(next, errors);
        }
        return errors;
    }

    private static void check(String field, Runnable check, Map<String, String> errors) {
        try {
            check.run();
        } catch (IllegalArgumentException bad) {
            errors.put(field, Sentence.of(bad));
        }
    }

    private void webErrors(Connection next, Map<String, String> errors) {
        errors.putAll(connections.errors(next));
        Connections.path("path", next.get(TextGateway.PATH), errors);
        template(TextGateway.TEMPLATE, next, errors);
        if (!next.sort().equals(WebCalls.SORT)) return;
        for (var method : List.of(WebCalls.METHOD, WebCalls.LATER_METHOD))
            if (!WebCalls.METHODS.contains(next.get(method))) errors.put(method, "Choose one of those offered.");
        if (!next.get(WebCalls.LATER_PATH).isEmpty()) {
            Connections.path("laterPath", next.get(WebCalls.LATER_PATH), errors);
            if (next.get(WebCalls.ID_PATH).isEmpty())
                errors.put("idPath", "Say where its name there stands in the answer, so that it can be changed later.");
        }
        if (!next.get(WebCalls.LATER_TEMPLATE).isBlank()) template(WebCalls.LATER_TEMPLATE, next, errors);
        var idPath = next.get(WebCalls.ID_PATH);
        if (!idPath.isEmpty()) {
            try {
                JsonPath.compile(idPath);
            } catch (InvalidPathException | IllegalArgumentException bad) {
                errors.put("idPath", "This is no JSONPath: " + bad.getMessage());
            }
        }
    }

    private static void template(String field, Connection next, Map<String, String> errors) {
        check(field, () -> CallTemplate.parse(next.get(field), variables(next)), errors);
    }

    private static String given(Map<String, String> sent, String name) {
        @Nullable String typed = sent.get(name);
        return typed == null ? "" : typed.replace("\r\n", "\n").strip();
    }
}
