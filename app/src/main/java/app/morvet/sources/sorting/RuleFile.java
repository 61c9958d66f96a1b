package app.morvet.sources.sorting;

import static app.morvet.ground.base.YamlFile.value;

import app.morvet.core.alert.Severity;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.base.YamlFile;
import app.morvet.ground.base.YamlFile.Wrong;
import app.morvet.ground.estate.Estate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;

/**
 * The sorting rules as a YAML file, out and in. The file is the whole list in its order: a rule that is not in it goes. A
 * rule is known by its name, so the same file twice changes nothing.
 */
@Service
public class RuleFile {
    private static final int MOST = 5000;
    private static final List<String> KEYS = List.of(
            "name",
            "where",
            "joined",
            "severity",
            "owner",
            "alerts",
            "fold",
            "foldMinutes",
            "sendAgain",
            "explainedBy",
            "fixNote");

    /**
     * What a file says.
     *
     * @param changes what would be different, in words
     */
    public record Read(List<StoredRule> rules, List<String> changes, List<YamlFile.Fault> faults) {}

    private final SortingRules rules;
    private final Estate estate;

    RuleFile(SortingRules rules, Estate estate) {
        this.rules = rules;
        this.estate = estate;
    }

    public String write() {
        var list = new ArrayList<Map<String, Object>>();
        for (var rule : rules.fresh().rules()) {
            var entry = new LinkedHashMap<String, Object>();
            entry.put("name", rule.name());
            var criteria = RuleJson.plain(rule.criteria());
            if (!rule.criteria().takesEverything()) entry.put("where", criteria.get("conditions"));
            if (criteria.containsKey("joined")) entry.put("joined", criteria.get("joined"));
            entry.put("severity", rule.severity().word());
            rules.owner(rule).ifPresent(team -> entry.put("owner", team.key()));
            entry.put("alerts", rule.alerts());
            entry.put("fold", rule.foldBy().name().toLowerCase(Locale.ROOT).replace('_', ' '));
            entry.put("foldMinutes", rule.foldFor().length().toMinutes());
            entry.put("sendAgain", rule.sendAgain());
            if (!rule.explainedBy().isEmpty())
                entry.put("explainedBy", rule.explainedBy().stream().sorted().toList());
            if (!rule.fixNote().isEmpty()) entry.put("fixNote", rule.fixNote());
            list.add(entry);
        }
        return YamlFile.write("sortingRules", list);
    }

    /** Reads a file against the list in force; nothing is changed. */
    public Read read(String text) {
        var faults = new ArrayList<YamlFile.Fault>();
        var wanted = new ArrayList<StoredRule>();
        var now = rules.fresh();
        try {
            var names = new HashSet<String>();
            for (var node : YamlFile.entries(text, "sortingRules", "rule", MOST)) {
                try {
                    var rule = rule(node, now);
                    if (!names.add(rule.name()))
                        throw new Wrong(node, "The name \"" + rule.name() + "\" stands twice in this file.");
                    wanted.add(rule);
                } catch (Wrong wrong) {
                    faults.add(wrong.fault());
                } catch (IllegalArgumentException wrong) {
                    faults.add(new YamlFile.Fault(YamlFile.line(node), Sentence.of(wrong)));
                }
            }
        } catch (Wrong wrong) {
            faults.add(wrong.fault());
        }
        if (faults.isEmpty()) {
            try {
                RuleList.of(0, wanted);
            } catch (IllegalArgumentException wrong) {
                faults.add(new YamlFile.Fault(1, Sentence.of(wrong)));
            }
        }
        return new Read(wanted, changes(now, wanted), faults);
    }

    private List<String> changes(RuleList now, List<StoredRule> wanted) {
        var changes = new ArrayList<String>();
        var names = new HashSet<String>();
        for (var rule : wanted) {
            names.add(rule.name());
            var before = now.byId(rule.id());
            if (before.isEmpty()) changes.add("New: " + rule.name() + ". " + rules.sentence(rule));
            else if (!before.get().doesAs(rule)) changes.add("Changed: " + rule.name() + ". " + rules.sentence(rule));
        }
        for (var rule : now.rules()) if (!names.contains(rule.name())) changes.add("Gone: " + rule.name() + ".");
        var order = wanted.stream().map(StoredRule::id).filter(id -> id != 0).toList();
        var before =
                now.rules().stream().map(StoredRule::id).filter(order::contains).toList();
        if (!order.equals(before)) changes.add("The order of the rules.");
        return changes;
    }

    private static String text(MappingNode node, String name, String otherwise) {
        var value = value(node, name);
        if (value == null) return otherwise;
        if (!(value instanceof ScalarNode scalar)) throw new Wrong(value, name + " must be a text.");
        return scalar.getValue();
    }

    private static boolean flag(MappingNode node, String name, boolean otherwise) {
        var text = text(node, name, String.valueOf(otherwise));
        if (!text.equals("true") && !text.equals("false"))
            throw new Wrong(java.util.Objects.requireNonNull(value(node, name)), name + " is true or false.");
        return text.equals("true");
    }

    private static Object plain(@Nullable Node node) {
        return switch (node) {
            case MappingNode mapping -> {
                var map = new LinkedHashMap<String, Object>();
                for (var pair : mapping.getValue())
                    map.put(String.valueOf(plain(pair.getKeyNode())), plain(pair.getValueNode()));
                yield map;
            }
            case SequenceNode list ->
                list.getValue().stream().map(RuleFile::plain).toList();
            case ScalarNode scalar -> scalar.getValue();
            case null, default -> List.of();
        };
    }

    private StoredRule rule(MappingNode node, RuleList now) {
        YamlFile.check(node, KEYS);
        var name = text(node, "name", "");
        var before = now.rules().stream().filter(one -> one.name().equals(name)).findFirst();
        var plain = new LinkedHashMap<String, Object>();
        plain.put("conditions", plain(value(node, "where")));
        if (value(node, "joined") != null) plain.put("joined", text(node, "joined", ""));
        var where = value(node, "where");
        try {
            return new StoredRule(
                    before.map(StoredRule::id).orElse(0L),
                    name,
                    RuleJson.criteria(plain),
                    severity(text(node, "severity", "warning")),
                    team(node),
                    text(node, "fixNote", ""),
                    flag(node, "alerts", true),
                    foldBy(node),
                    new FoldWindow(Duration.ofMinutes(minutes(node))),
                    flag(node, "sendAgain", false),
                    plain(value(node, "explainedBy")) instanceof List<?> kinds
                            ? kinds.stream().map(String::valueOf).collect(java.util.stream.Collectors.toSet())
                            : Set.of(),
                    before.map(StoredRule::lastTook).orElse(null),
                    0,
                    null);
        } catch (app.morvet.core.sorting.Faulty faulty) {
            throw new Wrong(where == null ? node : where, Sentence.of(faulty));
        }
    }

    private static FoldBy foldBy(MappingNode node) {
        var word = text(node, "fold", "family").toUpperCase(Locale.ROOT).replace(' ', '_');
        for (var one : FoldBy.values()) if (one.name().equals(word)) return one;
        throw new Wrong(
                java.util.Objects.requireNonNull(value(node, "fold")),
                "fold is one of "
                        + java.util.Arrays.stream(FoldBy.values())
                                .map(one -> one.name().toLowerCase(Locale.ROOT).replace('_', ' '))
                                .collect(java.util.stream.Collectors.joining(", "))
                        + ".");
    }

    private static long minutes(MappingNode node) {
        var text = text(node, "foldMinutes", "240");
        if (!text.matches("\\d{1,9}"))
            throw new Wrong(
                    java.util.Objects.requireNonNull(value(node, "foldMinutes")),
                    "foldMinutes is a whole number of minutes, was \"" + text + "\".");
        return Long.parseLong(text);
    }

    private static Severity severity(String word) {
        for (var one : Severity.values()) if (one.word().equals(word)) return one;
        throw new IllegalArgumentException("severity is critical, warning or notice, was \"" + word + "\"");
    }

    private @Nullable Long team(MappingNode node) {
        var key = text(node, "owner", "");
        if (key.isBlank()) return null;
        return estate.teams().stream()
                .filter(team -> team.key().equals(key) || team.name().equals(key))
                .findFirst()
                .orElseThrow(() -> new Wrong(
                        java.util.Objects.requireNonNull(value(node, "owner")), "There is no team \"" + key + "\"."))
                .id();
    }
}
