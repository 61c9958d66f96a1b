package app.morvet.sources.checks;

import app.morvet.core.checks.Result;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Pauses;
import app.morvet.probe.Told;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.OutpostPart;
import app.morvet.sources.outposts.Outposts;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.context.annotation.Lazy;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** The checks that outposts make: they are sent with their brief, and what comes of them is told. */
@Component
class CheckPart implements OutpostPart {
    private static final JsonMapper JSON = JsonMapper.shared();

    private final CheckStore store;
    private final CheckResults results;
    private final Outposts outposts;
    private final Pauses pauses;
    private final MorvetSettings settings;
    private final JsonMapper json;

    CheckPart(
            CheckStore store,
            CheckResults results,
            @Lazy Outposts outposts,
            Pauses pauses,
            MorvetSettings settings,
            JsonMapper json) {
        this.store = store;
        this.results = results;
        this.outposts = outposts;
        this.pauses = pauses;
        this.settings = settings;
        this.json = json;
    }

    @Override
    public String name() {
        return "checks";
    }

    @Override
    public String stamp(long outpost) {
        var stamp = store.stamp(outpost);
        if (!pauses.any()) return stamp;
        var paused = store.componentsOf(outpost).stream()
                .filter(pauses::component)
                .sorted()
                .toList();
        return paused.isEmpty() ? stamp : stamp + " but for " + paused;
    }

    @Override
    public List<ObjectNode> brief(long outpost) {
        return store.of(outpost).stream()
                .filter(due -> !pauses.component(due.check().component()))
                .map(due -> {
                    var check = due.check();
                    var node = json.createObjectNode()
                            .put("id", check.id())
                            .put("version", check.version())
                            .put("name", check.name())
                            .put("everySeconds", check.every().every().toSeconds())
                            .put("cron", check.every().cron())
                            .put("zone", settings.zone().getId())
                            .put("tries", check.tries())
                            .put("kind", check.look().kind().key())
                            .put("headers", due.secrets().headers())
                            .put("logIn", due.secrets().logIn());
                    node.set("fields", json.valueToTree(check.look().fields()));
                    return node;
                })
                .toList();
    }

    @Override
    public void take(Outpost outpost, JsonNode told, Instant now) {
        var check = store.byId(told.path("id").asLong(0)).orElse(null);
        // What was changed, switched off or taken away meanwhile is another check now.
        if (check == null
                || !check.active()
                || check.version() != told.path("version").asInt(0)) return;
        if (!check.from().contains(outpost.id()))
            throw new IllegalArgumentException("the check " + check.name() + " is not made from here");
        var at = time(told);
        if (at.isAfter(now.plus(Duration.ofMinutes(5))))
            throw new IllegalArgumentException("a result lies more than 5 min ahead of Morvet's clock");
        if (at.isBefore(now.minus(settings.keepReadings())))
            throw new IllegalArgumentException("a result lies before the days that are kept");
        var names = new HashMap<Long, String>();
        if (check.from().size() > 1) outposts.all().forEach(one -> names.put(one.id(), one.name()));
        results.keep(check, outpost, at, result(told), now, names);
    }

    private static Instant time(JsonNode told) {
        try {
            return OffsetDateTime.parse(told.path("at").asString("")).toInstant();
        } catch (DateTimeException unreadable) {
            throw new IllegalArgumentException("a result says when it was, as in RFC 3339", unreadable);
        }
    }

    /** @throws IllegalArgumentException where it is none; says why */
    static Result result(JsonNode told) {
        return Asking.plain(Told.read(told.isObject() ? JSON.convertValue(told, Map.class) : Map.of()));
    }
}
