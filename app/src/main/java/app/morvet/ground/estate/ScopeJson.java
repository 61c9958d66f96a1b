package app.morvet.ground.estate;

import app.morvet.core.estate.Scope;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Scopes as they are kept in the store, and in files. */
public final class ScopeJson {
    private static final JsonMapper JSON = new JsonMapper();

    private ScopeJson() {}

    public static String write(Scope scope) {
        var node = JSON.createObjectNode();
        put(node, scope);
        return node.toString();
    }

    public static Scope read(String text) {
        return read(JSON.readTree(text));
    }

    /** Puts what is said, and nothing else, beside what stands there. */
    public static void put(ObjectNode node, Scope scope) {
        put(node, "application", scope.application());
        put(node, "kind", scope.kind());
        if (scope.tier() > 0) node.put("tier", scope.tier());
        put(node, "environment", scope.environment());
        put(node, "name", scope.name());
        put(node, "group", scope.group());
        put(node, "chain", scope.chain());
        if (scope.onIt()) node.put("onIt", true);
    }

    private static void put(ObjectNode node, String name, String value) {
        if (!value.isEmpty()) node.put(name, value);
    }

    /** @throws IllegalArgumentException saying what is no scope */
    public static Scope read(JsonNode node) {
        return new Scope(
                text(node, "application"),
                text(node, "kind"),
                whole(node, "tier"),
                text(node, "environment"),
                text(node, "name"),
                text(node, "group"),
                text(node, "chain"),
                node.path("onIt").asBoolean(false));
    }

    private static int whole(JsonNode node, String name) {
        var value = node.get(name);
        if (value == null || value.isNull()) return 0;
        double number = value.isNumber() ? value.doubleValue(Double.NaN) : Double.NaN;
        if (number != (int) number) throw new IllegalArgumentException(name + " must be a whole number");
        return (int) number;
    }

    private static String text(JsonNode node, String name) {
        var value = node.get(name);
        if (value == null || value.isNull()) return "";
        if (!value.isString()) throw new IllegalArgumentException(name + " must be a text");
        return value.stringValue();
    }
}
