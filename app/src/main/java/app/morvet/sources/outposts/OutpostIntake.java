package app.morvet.sources.outposts;

import app.morvet.core.readings.OpenMetrics;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.sources.intake.ReadingsIntake;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Takes what outposts tell, in the order in which they saw it. Each thing bears its number in the spool of who tells it: what
 * was taken before is not taken again, and the answer says how far it was taken. Readings that are stored twice are stored
 * once, so a number that was not noted any more does no harm.
 */
@Component
class OutpostIntake {
    private static final Logger log = LoggerFactory.getLogger(OutpostIntake.class);
    private static final int MOST_TEXTS = 500;
    private static final int LONGEST_TEXT = 500;
    private static final long MOST_SECONDS = 100_000_000_000L;
    private static final Duration FARTHEST = Duration.ofDays(3650);
    private static final Set<String> RIGHTS = Set.of("analyst", "lead", "admin");
    private static final Duration TOLD_EVERY = Duration.ofSeconds(10);

    /** Whoever changes a part of a brief says so; what groups hold changes on its own, and is looked at as often as this. */
    private static final Duration PUT_TOGETHER_EVERY = Duration.ofSeconds(30);

    private final OutpostStore store;
    private final Briefs briefs;
    private final List<OutpostPart> parts;
    private final ReadingsIntake readings;
    private final Estate estate;
    private final JsonMapper json;
    private final Live live;
    private final Clock clock;
    private final Map<Long, Instant> toldOfItself = new ConcurrentHashMap<>();
    private final Map<Long, Instant> putTogether = new ConcurrentHashMap<>();

    OutpostIntake(
            OutpostStore store,
            Briefs briefs,
            List<OutpostPart> parts,
            ReadingsIntake readings,
            Estate estate,
            JsonMapper json,
            Live live,
            Clock clock) {
        this.store = store;
        this.briefs = briefs;
        this.parts = parts;
        this.readings = readings;
        this.estate = estate;
        this.json = json;
        this.live = live;
        this.clock = clock;
    }

    ObjectNode take(Outpost outpost, JsonNode word) {
        var now = clock.instant();
        var refused = json.createArrayNode();
        estate.heard(outpost.feed());
        heard(outpost, word, now);
        long takenTo = items(outpost, word, now, refused);
        for (var part : parts)
            for (var told : word.path("told").path(part.name())) take(part, outpost, told, now, refused);
        var wanted = wanted(outpost, now);
        var answer = json.createObjectNode()
                .put("now", now.toString())
                .put("takenTo", takenTo)
                .put("brief", wanted)
                .put("lookAgain", outpost.lookAgain());
        if (outpost.lookAgain()) store.lookAgain(outpost.id(), false);
        answer.set("refused", refused);
        for (var part : parts) {
            var some = part.now(outpost, now);
            if (!some.isEmpty()) answer.putArray(part.name()).addAll(some);
        }
        return answer;
    }

    private String wanted(Outpost outpost, Instant now) {
        var last = putTogether.get(outpost.id());
        if (!outpost.wanted().isEmpty() && last != null && now.isBefore(last.plus(PUT_TOGETHER_EVERY)))
            return outpost.wanted();
        var wanted = briefs.version(outpost);
        store.wanted(outpost.id(), wanted, now);
        putTogether.put(outpost.id(), now);
        return wanted;
    }

    private void heard(Outpost outpost, JsonNode word, Instant now) {
        var its = time(word.path("at").asString(""), now);
        var skew = Duration.between(now, its);
        // Farther off it is no clock.
        if (skew.abs().compareTo(FARTHEST) > 0) skew = skew.isNegative() ? FARTHEST.negated() : FARTHEST;
        var said = new Outpost.Said(
                now,
                text(word, "program"),
                text(word, "host"),
                text(word, "system"),
                text(word, "brief"),
                null,
                skew,
                word.path("waiting").asLong(0),
                word.path("dropped").asLong(0),
                List.of(),
                List.of(),
                List.of(),
                List.of());
        var may = json.createObjectNode();
        may.set("lines", texts(word.path("may").path("lines")));
        may.set("actions", actions(word.path("may").path("actions")));
        store.heard(outpost.id(), said, texts(word.path("offers")), may, texts(word.path("faults")));
        boolean news = outpost.isSilent(now)
                || outpost.said() == null
                || !outpost.said().brief().equals(said.brief())
                || toldOfItself
                        .getOrDefault(outpost.id(), Instant.EPOCH)
                        .plus(TOLD_EVERY)
                        .isBefore(now);
        if (!news) return;
        toldOfItself.put(outpost.id(), now);
        live.changed(Outposts.TOPIC);
        if (outpost.isSilent(now)) live.changed(Outposts.BACK);
        var host = estate.component(outpost.component());
        var list = json.createArrayNode();
        gauge(list, host, "outpost_waiting", "", said.waiting(), now);
        gauge(list, host, "outpost_clock_off", "seconds", Math.abs(skew.toMillis() / 1000.0), now);
        readings.takeJson(outpost.feed(), list, Set.of(host.key()));
    }

    private static void gauge(
            ArrayNode list, Estate.Component host, String measure, String unit, double value, Instant now) {
        list.addObject()
                .put("component", host.key())
                .put("kind", host.kind())
                .put("measure", measure)
                .put("unit", unit)
                .put("value", value)
                .put("at", now.toString());
    }

    private static String text(JsonNode word, String name) {
        return PlainText.cut(PlainText.of(word.path(name).asString("")), LONGEST_TEXT);
    }

    private ArrayNode texts(JsonNode list) {
        var texts = json.createArrayNode();
        for (var one : list)
            if (texts.size() < MOST_TEXTS) texts.add(PlainText.cut(PlainText.of(one.asString("")), LONGEST_TEXT));
        return texts;
    }

    /** Those that are such, as pages read them; what is none is left out. */
    private ArrayNode actions(JsonNode told) {
        var actions = json.createArrayNode();
        for (var one : told) {
            var name = text(one, "name");
            if (name.isEmpty() || !RIGHTS.contains(text(one, "right")) || actions.size() == MOST_TEXTS) continue;
            var action = actions.addObject()
                    .put("name", name)
                    .put("of", text(one, "of"))
                    .put("right", text(one, "right"));
            var arguments = action.putObject("arguments");
            one.path("arguments")
                    .properties()
                    .forEach(it -> arguments.set(
                            PlainText.cut(PlainText.of(it.getKey()), LONGEST_TEXT), texts(it.getValue())));
        }
        return actions;
    }

    static Instant time(String text, Instant otherwise) {
        try {
            if (text.isEmpty()) return otherwise;
            var at = OffsetDateTime.parse(text).toInstant();
            return Math.abs(at.getEpochSecond()) > MOST_SECONDS ? otherwise : at;
        } catch (DateTimeException unreadable) {
            return otherwise;
        }
    }

    /** What it saw; gives back the number up to which all was taken. */
    private long items(Outpost outpost, JsonNode word, Instant now, ArrayNode refused) {
        var spool = text(word, "spool");
        // Another spool is that of another life of it, and begins anew.
        long takenTo = spool.equals(outpost.spool()) ? outpost.takenTo() : 0;
        long before = takenTo;
        var together = json.createArrayNode();
        for (var item : word.path("items")) {
            long number = item.path("n").asLong(0);
            if (number <= takenTo) continue;
            takenTo = number;
            if (item.has("readings")) item.path("readings").forEach(together::add);
            else if (item.has("page")) page(outpost, item, now, refused);
            else
                for (var part : parts)
                    if (item.has(part.name())) take(part, outpost, item.path(part.name()), now, refused);
        }
        if (!together.isEmpty()) measured(outpost, together, refused);
        if (takenTo > before || !spool.equals(outpost.spool())) store.takenTo(outpost.id(), spool, takenTo);
        return takenTo;
    }

    private void take(OutpostPart part, Outpost outpost, JsonNode told, Instant now, ArrayNode refused) {
        try {
            part.take(outpost, told, now);
        } catch (IllegalArgumentException | JacksonException | DataIntegrityViolationException unfit) {
            // One thing that cannot be taken keeps nothing that stands behind it from being told.
            log.warn(
                    "the outpost {} told of {} what cannot be taken: {}",
                    outpost.name(),
                    part.name(),
                    unfit.getMessage());
            refused.add(part.name() + ": " + unfit.getMessage());
        }
    }

    /** An outpost tells of its host and of what stands on it, and of nothing else. */
    private Set<String> mayTellOf(Outpost outpost) {
        var keys = new HashSet<String>();
        keys.add(estate.component(outpost.component()).key());
        for (var one : estate.standingOn(outpost.component())) {
            keys.add(one.key());
            estate.standingOn(one.id()).forEach(on -> keys.add(on.key()));
        }
        return keys;
    }

    private void measured(Outpost outpost, ArrayNode list, ArrayNode refused) {
        var host = estate.component(outpost.component());
        for (var one : list)
            if (one instanceof ObjectNode reading && !reading.has("component"))
                reading.put("component", host.key()).put("kind", host.kind());
        readings.takeJson(outpost.feed(), list, mayTellOf(outpost))
                .reasons()
                .forEach(one -> refused.add("readings: " + one));
    }

    private void page(Outpost outpost, JsonNode item, Instant now, ArrayNode refused) {
        var at = time(item.path("at").asString(""), now);
        var host = estate.component(outpost.component());
        readings.takePage(
                        outpost.feed(),
                        OpenMetrics.lenient(item.path("page").asString("")),
                        item.path("page").asString(""),
                        new ReadingsIntake.Teller(host.key(), host.kind(), at, mayTellOf(outpost)))
                .reasons()
                .forEach(one -> refused.add("page: " + one));
    }
}
