package app.morvet.guards;

import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CountWindow;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Watched;
import java.time.Duration;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Guards and what they watch, as they are kept. One shape a kind, so that a new kind is a new case here. */
@Component
class GuardJson {
    private final JsonMapper json;

    GuardJson(JsonMapper json) {
        this.json = json;
    }

    String write(Guard guard) {
        var node = json.createObjectNode();
        switch (guard) {
            case LimitGuard(var window, var limits, var clearing) -> {
                node.put("kind", "limit");
                switch (window) {
                    case CountWindow.SinceMidnight(var zone) -> node.put("sinceMidnightIn", zone.getId());
                    case CountWindow.Sliding(var length) -> node.put("overLast", length.toString());
                }
                put(node, "warning", limits.warning());
                put(node, "critical", limits.critical());
                node.put("clearMargin", clearing.margin());
                node.put("clearTime", clearing.time().toString());
            }
        }
        return node.toString();
    }

    private static void put(ObjectNode node, String name, @Nullable Double value) {
        if (value != null) node.put(name, value.doubleValue());
    }

    Guard readGuard(String text) {
        var node = json.readTree(text);
        return switch (node.path("kind").asString("")) {
            case "limit" -> {
                var window = node.has("overLast")
                        ? new CountWindow.Sliding(
                                Duration.parse(node.get("overLast").stringValue()))
                        : new CountWindow.SinceMidnight(
                                ZoneId.of(node.get("sinceMidnightIn").stringValue()));
                yield new LimitGuard(
                        window,
                        new Limits(number(node, "warning"), number(node, "critical")),
                        new Clearing(
                                node.get("clearMargin").doubleValue(),
                                Duration.parse(node.get("clearTime").stringValue())));
            }
            case String other -> throw new IllegalStateException("a stored guard has the unknown kind " + other);
        };
    }

    private static @Nullable Double number(JsonNode node, String name) {
        var value = node.get(name);
        return value == null ? null : value.doubleValue();
    }

    String write(Watched watched) {
        var node = json.createObjectNode();
        switch (watched) {
            case Watched.EveryInterface() -> node.put("every", "interface");
            case Watched.InterfacesOf(var application) -> node.put("application", application);
            case Watched.OneInterface(var component) -> node.put("interface", component);
        }
        return node.toString();
    }

    Watched readWatched(String text) {
        var node = json.readTree(text);
        if (node.has("application"))
            return new Watched.InterfacesOf(node.get("application").stringValue());
        if (node.has("interface"))
            return new Watched.OneInterface(node.get("interface").stringValue());
        return new Watched.EveryInterface();
    }
}
