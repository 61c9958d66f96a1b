package app.morvet.sources.sorting;

import app.morvet.core.guard.Expression;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.Faulty;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** What a rule takes as plain maps and lists, as it is stored and as it stands in a file. */
final class RuleJson {
    private RuleJson() {}

    static Map<String, Object> plain(Criteria criteria) {
        var plain = new LinkedHashMap<String, Object>();
        plain.put(
                "conditions",
                criteria.conditions().stream().map(RuleJson::plain).toList());
        var joined = criteria.joined();
        if (joined != null) plain.put("joined", joined.text());
        return plain;
    }

    private static Map<String, Object> plain(Condition condition) {
        var plain = new LinkedHashMap<String, Object>();
        switch (condition) {
            case Condition.OnInterface(var keys) -> plain.put("interface", List.copyOf(new TreeSet<>(keys)));
            case Condition.AtStep(var step) -> plain.put("step", step);
            case Condition.ErrorContains(var text) -> plain.put("errorContains", text);
            case Condition.ErrorMatches(var pattern) -> plain.put("errorMatches", pattern.text());
            case Condition.Attribute(var name, var value) -> {
                plain.put("attribute", name);
                if (!value.isEmpty()) plain.put("is", value);
            }
            case Condition.XPathHolds holds -> plain.put("xpath", holds.path());
            case Condition.JsonPathHolds holds -> plain.put("jsonpath", holds.path());
            case Condition.Refused refused -> plain.put(refused.kind(), refused.text());
        }
        return plain;
    }

    /** @throws IllegalArgumentException that says what is wrong */
    static Criteria criteria(Map<?, ?> plain) {
        return criteria(plain, false);
    }

    /** What was stored before, with what is refused by now in its place. */
    static Criteria stored(Map<?, ?> plain) {
        return criteria(plain, true);
    }

    private static Criteria criteria(Map<?, ?> plain, boolean stored) {
        var conditions = new ArrayList<Condition>();
        if (plain.get("conditions") instanceof List<?> list) {
            for (var one : list) {
                if (!(one instanceof Map<?, ?> map)) throw new IllegalArgumentException("a condition is a mapping");
                conditions.add(condition(map, stored));
            }
        } else if (plain.get("conditions") != null) {
            throw new IllegalArgumentException("conditions is a list");
        }
        var joined = text(plain, "joined");
        return new Criteria(conditions, joined == null || joined.isBlank() ? null : Expression.parse(joined));
    }

    private static Condition condition(Map<?, ?> plain, boolean stored) {
        var keys = new LinkedHashSet<String>();
        plain.keySet().forEach(key -> keys.add(String.valueOf(key)));
        for (var key : keys) {
            switch (key) {
                case "interface" -> {
                    var interfaces = new LinkedHashSet<String>();
                    if (plain.get(key) instanceof List<?> list)
                        list.forEach(one -> interfaces.add(String.valueOf(one)));
                    else interfaces.add(String.valueOf(plain.get(key)));
                    return new Condition.OnInterface(interfaces);
                }
                case "step" -> {
                    return new Condition.AtStep(String.valueOf(plain.get(key)));
                }
                case "errorContains" -> {
                    return new Condition.ErrorContains(String.valueOf(plain.get(key)));
                }
                case "errorMatches" -> {
                    return read(key, plain, Condition.ErrorMatches::of, stored);
                }
                case "attribute" -> {
                    var value = text(plain, "is");
                    return new Condition.Attribute(String.valueOf(plain.get(key)), value == null ? "" : value);
                }
                case "xpath" -> {
                    return read(key, plain, Condition.XPathHolds::of, stored);
                }
                case "jsonpath" -> {
                    return read(key, plain, Condition.JsonPathHolds::of, stored);
                }
                default -> {
                    // looked at below, where no known key is left
                }
            }
        }
        throw new IllegalArgumentException(
                "a condition has interface, step, errorContains, errorMatches, attribute, xpath or jsonpath, this has "
                        + (keys.isEmpty() ? "nothing" : String.join(", ", keys)));
    }

    private static Condition read(String key, Map<?, ?> plain, Function<String, Condition> reads, boolean stored) {
        var text = String.valueOf(plain.get(key));
        try {
            return reads.apply(text);
        } catch (Faulty refused) {
            if (!stored) throw refused;
            return new Condition.Refused(key, text, String.valueOf(refused.getMessage()));
        }
    }

    private static @Nullable String text(Map<?, ?> plain, String key) {
        var value = plain.get(key);
        return value == null ? null : String.valueOf(value);
    }
}
