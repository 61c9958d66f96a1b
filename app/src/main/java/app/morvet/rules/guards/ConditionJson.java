package app.morvet.rules.guards;

import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import java.time.Duration;
import java.util.ArrayList;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** What a state guard asks for, as a tree: {@code "criticalWhen": {"is": "in", "words": ["stopped"], "for": "PT2M"}}. */
final class ConditionJson {
    private ConditionJson() {}

    static void put(ObjectNode node, StateGuard guard) {
        put(node, "warningWhen", guard.warning());
        put(node, "criticalWhen", guard.critical());
    }

    private static void put(ObjectNode node, String name, StateGuard.@Nullable Condition condition) {
        if (condition == null) return;
        var at = node.putObject(name);
        at.put("is", GuardJson.word(condition.manner()));
        var words = at.putArray("words");
        condition.words().forEach(words::add);
        at.put("for", condition.span().toString());
    }

    static StateGuard read(JsonNode node, Terms terms) {
        return new StateGuard(condition(node, "warningWhen"), condition(node, "criticalWhen"), terms);
    }

    private static StateGuard.@Nullable Condition condition(JsonNode node, String name) {
        var at = node.get(name);
        if (at == null || at.isNull()) return null;
        if (!at.isObject()) throw new GuardJson.Wrong(name, "must say which words, and for how long");
        var words = new ArrayList<String>();
        for (var word : at.path("words")) {
            if (!word.isString()) throw new GuardJson.Wrong(name, "words must be texts");
            words.add(word.stringValue());
        }
        try {
            return new StateGuard.Condition(
                    GuardJson.choice(StateGuard.Manner.class, at, "is", StateGuard.Manner.IN),
                    words,
                    GuardJson.duration(at, "for", Duration.ZERO));
        } catch (GuardJson.Wrong wrong) {
            throw wrong;
        } catch (IllegalArgumentException wrong) {
            throw new GuardJson.Wrong(name, String.valueOf(wrong.getMessage()));
        }
    }
}
