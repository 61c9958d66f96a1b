package app.morvet.sources.outposts;

import app.morvet.ground.base.PlainText;
import app.morvet.ground.page.Figures;
import app.morvet.ground.page.Times;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.context.annotation.Lazy;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.server.ResponseStatusException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The busiest and the largest processes of a host, sent by its outpost as long as somebody looks. */
@Controller
class Processes implements OutpostPart {
    private static final Duration LOOKED_AT = Duration.ofSeconds(20);
    private static final int MOST = 60;

    record Row(long id, String name, String line, String processor, String memory, String since) {}

    private final OutpostStore store;
    private final Outposts outposts;
    private final Times times;
    private final JsonMapper json;
    private final Clock clock;

    Processes(OutpostStore store, @Lazy Outposts outposts, Times times, JsonMapper json, Clock clock) {
        this.store = store;
        this.outposts = outposts;
        this.times = times;
        this.json = json;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "processes";
    }

    @Override
    public List<? extends JsonNode> now(Outpost outpost, Instant now) {
        return store.watched(outpost.id(), now)
                ? List.of(json.createObjectNode().put("top", true))
                : List.of();
    }

    @Override
    public void take(Outpost outpost, JsonNode told, Instant now) {
        var list = json.createArrayNode();
        for (var one : told.path("all")) {
            if (list.size() == MOST) break;
            list.addObject()
                    .put("id", one.path("id").asLong(0))
                    .put("name", plain(one, "name", 100))
                    .put("line", plain(one, "line", 300))
                    .put("processor", one.path("processor").asDouble(0))
                    .put("memory", one.path("memory").asLong(0))
                    .put("since", plain(one, "since", 40));
        }
        store.keepProcesses(
                outpost.id(),
                json.createObjectNode()
                        .put("at", now.toString())
                        .set("all", list)
                        .toString());
    }

    private static String plain(JsonNode one, String name, int most) {
        return PlainText.cut(PlainText.of(one.path(name).asString("")), most);
    }

    @GetMapping("/services/outposts/{id:\\d{1,18}}/processes")
    String page(
            @PathVariable long id,
            @RequestHeader(name = "HX-Target", required = false) @org.jspecify.annotations.Nullable String target,
            Model model) {
        var one = outposts.find(id)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no outpost " + id + "."));
        var now = clock.instant();
        store.watch(id, now.plus(LOOKED_AT));
        var told = store.processes(id).map(json::readTree).orElse(json.createObjectNode());
        var at = OutpostIntake.time(told.path("at").asString(""), Instant.EPOCH);
        boolean fresh = at.plus(LOOKED_AT).isAfter(now);
        model.addAttribute("one", one);
        model.addAttribute("silent", one.isSilent(now));
        model.addAttribute("at", fresh ? times.of(at) : "");
        model.addAttribute("rows", fresh ? rows(told.path("all")) : List.of());
        return "process-rows".equals(target) ? "processes :: rows" : "processes";
    }

    private List<Row> rows(JsonNode all) {
        var rows = new ArrayList<Row>();
        for (var one : all)
            rows.add(new Row(
                    one.path("id").asLong(),
                    one.path("name").asString(),
                    one.path("line").asString(),
                    "%.1f %%".formatted(one.path("processor").asDouble()),
                    Figures.grouped(Math.round(one.path("memory").asLong() / 1e6)) + " MB",
                    times.of(OutpostIntake.time(one.path("since").asString(""), Instant.EPOCH))));
        return rows;
    }
}
