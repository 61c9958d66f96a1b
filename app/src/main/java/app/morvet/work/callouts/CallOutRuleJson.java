package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.guard.Hours;
import app.morvet.ground.estate.ScopeJson;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Rules as they are kept. */
final class CallOutRuleJson {
    private static final JsonMapper JSON = new JsonMapper();

    private CallOutRuleJson() {}

    static String write(CallOutRule rule) {
        var node = JSON.createObjectNode();
        node.put("when", rule.when().name()).put("from", rule.from().name());
        ScopeJson.put(node.putObject("over_what"), rule.scope());
        var hours = rule.hours();
        if (hours != null) put(node.putObject("hours"), hours);
        var steps = node.putArray("steps");
        for (var step : rule.steps()) {
            var one = steps.addObject()
                    .put("after", step.after().toSeconds())
                    .put("whom", step.whom().code());
            var ways = one.putArray("ways");
            step.ways().forEach(way -> ways.add(way.name()));
        }
        var again = rule.again();
        if (again != null) node.put("again", again.toSeconds());
        var digest = rule.digest();
        if (digest != null)
            node.putObject("digest")
                    .put("every", digest.every().name())
                    .put("day", digest.day().name())
                    .put("at", digest.at().toString());
        return node.put("over", rule.over()).put("goes_on", rule.goesOn()).toString();
    }

    private static void put(ObjectNode node, Hours hours) {
        var days = node.putArray("days");
        hours.days().stream().sorted().forEach(day -> days.add(day.name()));
        node.put("from", hours.from().toString())
                .put("to", hours.to().toString())
                .put("zone", hours.zone().getId());
    }

    static CallOutRule read(String name, String text) {
        var node = JSON.readTree(text);
        var steps = new ArrayList<Step>();
        for (var one : node.path("steps")) {
            var ways = new ArrayList<Way>();
            one.path("ways").forEach(way -> ways.add(Way.valueOf(way.stringValue())));
            steps.add(new Step(
                    Duration.ofSeconds(one.path("after").asLong()),
                    Whom.read(one.path("whom").stringValue()),
                    ways));
        }
        return new CallOutRule(
                name,
                Happening.valueOf(node.path("when").stringValue()),
                Severity.valueOf(node.path("from").stringValue()),
                ScopeJson.read(node.path("over_what")),
                hours(node.path("hours")),
                steps,
                node.path("again").isMissingNode()
                        ? null
                        : Duration.ofSeconds(node.path("again").asLong()),
                node.path("over").asBoolean(false),
                node.path("goes_on").asBoolean(false),
                digest(node.path("digest")));
    }

    private static @Nullable Digest digest(JsonNode node) {
        if (node.isMissingNode()) return null;
        return new Digest(
                Digest.Every.valueOf(node.path("every").stringValue()),
                DayOfWeek.valueOf(node.path("day").stringValue()),
                LocalTime.parse(node.path("at").stringValue()));
    }

    private static @Nullable Hours hours(JsonNode node) {
        if (node.isMissingNode()) return null;
        var days = EnumSet.noneOf(DayOfWeek.class);
        for (var day : List.copyOf(node.path("days").values())) days.add(DayOfWeek.valueOf(day.stringValue()));
        return new Hours(
                days,
                LocalTime.parse(node.path("from").stringValue()),
                LocalTime.parse(node.path("to").stringValue()),
                ZoneId.of(node.path("zone").stringValue()));
    }
}
