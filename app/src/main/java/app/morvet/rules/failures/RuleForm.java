package app.morvet.rules.failures;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Expression;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.sorting.StoredRule;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.util.MultiValueMap;

/**
 * A sorting rule as it stands in the form, typed text and all.
 *
 * @param rows the conditions, with room for more
 */
record RuleForm(
        long id,
        int version,
        String name,
        List<Row> rows,
        String joined,
        String severity,
        String owner,
        boolean alerts,
        String fold,
        String foldFor,
        String foldUnit,
        boolean sendAgain,
        Set<String> explainedBy,
        String fixNote,
        int place,
        boolean last) {

    /** @param kind of condition; empty where there is none */
    record Row(String kind, String value, String second) {
        private static final Row NONE = new Row("", "", "");
    }

    /** What was typed was understood, or is wrong at some fields. */
    record Read(@Nullable StoredRule rule, Map<String, String> errors) {}

    static RuleForm of(StoredRule rule, int version, int place, Estate estate) {
        var rows = new ArrayList<Row>();
        rule.criteria().conditions().forEach(condition -> rows.add(row(condition, estate)));
        var joined = rule.criteria().joined();
        long minutes = rule.foldFor().length().toMinutes();
        boolean hours = minutes % 60 == 0;
        return new RuleForm(
                rule.id(),
                version,
                rule.name(),
                withRoom(rows),
                joined == null ? "" : joined.text(),
                rule.severity().name(),
                rule.owner() == null ? "" : String.valueOf(rule.owner()),
                rule.alerts(),
                rule.foldBy().name(),
                String.valueOf(hours ? minutes / 60 : minutes),
                hours ? "h" : "min",
                rule.sendAgain(),
                rule.explainedBy(),
                rule.fixNote(),
                place,
                rule.id() != 0 && rule.criteria().takesEverything());
    }

    private static List<Row> withRoom(List<Row> rows) {
        var more = new ArrayList<>(rows);
        int room = Math.min(Criteria.MOST, Math.max(2, rows.size() + 1));
        while (more.size() < room) more.add(Row.NONE);
        return more;
    }

    private static Row row(Condition condition, Estate estate) {
        return switch (condition) {
            case Condition.OnInterface(var keys) ->
                new Row(
                        "interface",
                        new TreeSet<>(keys).stream().map(estate::nameOf).collect(Collectors.joining(", ")),
                        "");
            case Condition.AtStep(var step) -> new Row("step", step, "");
            case Condition.ErrorContains(var text) -> new Row("contains", text, "");
            case Condition.ErrorMatches(var pattern) -> new Row("matches", pattern.text(), "");
            case Condition.Attribute(var name, var value) -> new Row("attribute", name, value);
            case Condition.XPathHolds holds -> new Row("xpath", holds.path(), "");
            case Condition.JsonPathHolds holds -> new Row("jsonpath", holds.path(), "");
            case Condition.Refused refused ->
                new Row(refused.kind().equals("errorMatches") ? "matches" : refused.kind(), refused.text(), "");
        };
    }

    static RuleForm typed(MultiValueMap<String, String> typed) {
        var rows = new ArrayList<Row>();
        for (int i = 0; i < Criteria.MOST; i++) {
            var row = new Row(text(typed, "kind" + i), text(typed, "value" + i), text(typed, "second" + i));
            if (!row.kind().isEmpty()) rows.add(row);
        }
        return new RuleForm(
                number(text(typed, "id")),
                (int) number(text(typed, "version")),
                text(typed, "name").strip(),
                withRoom(rows),
                text(typed, "joined").strip(),
                text(typed, "severity"),
                text(typed, "owner"),
                !text(typed, "alerts").equals("count"),
                text(typed, "fold"),
                text(typed, "foldFor").strip(),
                text(typed, "foldUnit"),
                text(typed, "sendAgain").equals("yes"),
                new LinkedHashSet<>(typed.getOrDefault("explainedBy", List.of())),
                text(typed, "fixNote"),
                (int) number(text(typed, "place")),
                text(typed, "last").equals("true"));
    }

    private static String text(MultiValueMap<String, String> typed, String name) {
        var value = typed.getFirst(name);
        return value == null ? "" : value;
    }

    private static long number(String text) {
        return text.matches("\\d{1,12}") ? Long.parseLong(text) : 0;
    }

    Read read(Estate estate) {
        var errors = new LinkedHashMap<String, String>();
        var conditions = new ArrayList<Condition>();
        for (int i = 0; i < rows.size(); i++) {
            var row = rows.get(i);
            if (row.kind().isEmpty()) continue;
            try {
                conditions.add(condition(row, estate));
            } catch (IllegalArgumentException wrong) {
                errors.put("row" + i, Sentence.of(wrong));
            }
        }
        Criteria criteria = null;
        if (errors.isEmpty()) {
            try {
                criteria = new Criteria(conditions, joined.isBlank() ? null : Expression.parse(joined));
            } catch (IllegalArgumentException wrong) {
                errors.put("joined", Sentence.of(wrong));
            }
        }
        if (criteria != null && criteria.takesEverything() && !last)
            errors.put("row0", "Say at least one thing that a message must have; only the last rule takes everything.");
        if (name.isBlank()) errors.put("name", "Give the rule a name: what the failure is, in a few words.");
        if (name.length() > 100) errors.put("name", "At most 100 characters, these are " + name.length() + ".");
        FoldWindow window = null;
        try {
            window = new FoldWindow(
                    foldUnit.equals("h")
                            ? Duration.ofHours(Long.parseLong(foldFor))
                            : Duration.ofMinutes(Long.parseLong(foldFor)));
        } catch (NumberFormatException notNumber) {
            errors.put("foldFor", "A whole number, such as 4.");
        } catch (IllegalArgumentException | ArithmeticException wrong) {
            errors.put("foldFor", "From 1 min to 720 h.");
        }
        if (fixNote.length() > 20_000)
            errors.put("fixNote", "At most 20,000 characters, these are " + fixNote.length() + ".");
        if (!errors.isEmpty() || criteria == null || window == null) return new Read(null, errors);
        return new Read(
                new StoredRule(
                        id,
                        name,
                        criteria,
                        one(Severity.values(), severity, Severity.WARNING),
                        owner.matches("\\d{1,12}") ? Long.valueOf(owner) : null,
                        fixNote.replace("\r\n", "\n"),
                        alerts,
                        one(FoldBy.values(), fold, FoldBy.FAMILY),
                        window,
                        sendAgain,
                        explainedBy.stream().filter(Estate.KINDS::contains).collect(Collectors.toSet()),
                        null,
                        0,
                        null),
                errors);
    }

    private static <E extends Enum<E>> E one(E[] all, String name, E otherwise) {
        return Arrays.stream(all)
                .filter(value -> value.name().equals(name))
                .findFirst()
                .orElse(otherwise);
    }

    private static Condition condition(Row row, Estate estate) {
        var value = row.value();
        return switch (row.kind()) {
            case "interface" -> new Condition.OnInterface(estate.interfacesNamed(value));
            case "step" -> new Condition.AtStep(value.strip());
            case "contains" -> new Condition.ErrorContains(value.strip());
            case "matches" -> Condition.ErrorMatches.of(value);
            case "attribute" ->
                new Condition.Attribute(value.strip(), row.second().strip());
            case "xpath" -> Condition.XPathHolds.of(value.strip());
            case "jsonpath" -> Condition.JsonPathHolds.of(value.strip());
            default -> throw new IllegalArgumentException("choose what the condition asks");
        };
    }
}
