package app.morvet.alerting.windows;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Objects;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** When a window is, as it is stored. */
final class PlanJson {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private PlanJson() {}

    static String write(Plan plan) {
        var node = JSON.createObjectNode();
        if (plan.first() != null) node.put("first", plan.first().toString());
        else node.put("again", RhythmText.of(Objects.requireNonNull(plan.again())));
        node.put("zone", plan.zone().getId()).put("minutes", plan.length().toMinutes());
        if (plan.until() != null) node.put("until", plan.until().toString());
        node.set("skipped", skipped(plan));
        node.set("altered", altered(plan));
        return node.toString();
    }

    /** @param calendar whose holidays its rhythm means */
    static Plan read(String text, HolidayCalendar calendar) {
        var node = JSON.readTree(text);
        return new Plan(
                node.has("first") ? Instant.parse(node.path("first").asString()) : null,
                node.has("again") ? RhythmText.read(node.path("again").asString(), calendar) : null,
                ZoneId.of(node.path("zone").asString()),
                Duration.ofMinutes(node.path("minutes").asLong()),
                node.has("until") ? LocalDate.parse(node.path("until").asString()) : null,
                skipped(node.path("skipped")),
                altered(node.path("altered")));
    }

    static ArrayNode skipped(Plan plan) {
        var all = JSON.createArrayNode();
        plan.skipped().forEach(it -> all.add(it.toString()));
        return all;
    }

    static ObjectNode altered(Plan plan) {
        var all = JSON.createObjectNode();
        plan.altered().forEach((meant, span) -> all.putObject(meant.toString())
                .put("from", span.from().toString())
                .put("to", span.to().toString()));
        return all;
    }

    static SortedSet<LocalDateTime> skipped(JsonNode node) {
        var all = new TreeSet<LocalDateTime>();
        node.forEach(one -> all.add(LocalDateTime.parse(one.asString())));
        return all;
    }

    static TreeMap<LocalDateTime, Plan.Span> altered(JsonNode node) {
        var all = new TreeMap<LocalDateTime, Plan.Span>();
        node.properties()
                .forEach(one -> all.put(
                        LocalDateTime.parse(one.getKey()),
                        new Plan.Span(
                                Instant.parse(one.getValue().path("from").asString()),
                                Instant.parse(one.getValue().path("to").asString()))));
        return all;
    }
}
