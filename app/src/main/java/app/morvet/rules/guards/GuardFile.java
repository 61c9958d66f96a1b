package app.morvet.rules.guards;

import static app.morvet.ground.base.YamlFile.line;
import static app.morvet.ground.base.YamlFile.value;

import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Watch;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.YamlFile;
import app.morvet.ground.base.YamlFile.Wrong;
import app.morvet.ground.estate.Estate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;
import org.yaml.snakeyaml.nodes.Tag;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Guards as a YAML file, out and in. A guard is known by its name; what is not in the file stays as it is, and a file that
 * is read a second time changes nothing. Read whole before anything is changed; what is wrong is told by its line.
 */
@Service
class GuardFile {
    private static final int MOST = 5000;
    private static final List<String> KEYS = List.of("name", "active", "watch", "rule", "owner", "fixNote");

    /** What one entry of the file says; the rule of a combination still has names in it. */
    private record Entry(
            MappingNode node,
            int line,
            String name,
            boolean active,
            Watch watch,
            JsonNode rule,
            String fixNote,
            @Nullable Long owner) {}

    private final GuardStore store;
    private final Guards guards;
    private final GuardJson json;
    private final Estate estate;
    private final JsonMapper mapper;

    GuardFile(GuardStore store, Guards guards, GuardJson json, Estate estate, JsonMapper mapper) {
        this.store = store;
        this.guards = guards;
        this.json = json;
        this.estate = estate;
        this.mapper = mapper;
    }

    /** All guards that stand. */
    String write() {
        var names = new HashMap<Long, String>();
        var standing = store.all();
        standing.forEach(guard -> names.put(guard.id(), guard.name()));
        var list = new ArrayList<Map<String, Object>>();
        for (var guard : standing) {
            var entry = new LinkedHashMap<String, Object>();
            entry.put("name", guard.name());
            entry.put("active", guard.active());
            entry.put("watch", plain(json.tree(guard.watch())));
            entry.put("rule", plain(named(json.tree(guard.rule()), guard.rule(), names)));
            if (guard.owner() != null) estate.team(guard.owner()).ifPresent(team -> entry.put("owner", team.key()));
            if (!guard.fixNote().isEmpty()) entry.put("fixNote", guard.fixNote());
            list.add(entry);
        }
        return YamlFile.write("guards", list);
    }

    private static ObjectNode named(ObjectNode rule, Guard guard, Map<Long, String> names) {
        if (!(guard instanceof CombinationGuard combination)) return rule;
        var members = rule.putArray("members");
        combination.members().forEach(id -> members.add(names.getOrDefault(id, "guard " + id)));
        return rule;
    }

    private Object plain(ObjectNode node) {
        return mapper.convertValue(node, LinkedHashMap.class);
    }

    YamlFile.Read read(String text) {
        return go(text, null);
    }

    /** Does what a file says, all of it or nothing. */
    @Transactional
    public YamlFile.Read apply(String text, Person by) {
        var read = go(text, null);
        return read.faults().isEmpty() ? go(text, by) : read;
    }

    private YamlFile.Read go(String text, @Nullable Person by) {
        var faults = new ArrayList<YamlFile.Fault>();
        var entries = new ArrayList<Entry>();
        try {
            for (var node : YamlFile.entries(text, "guards", "guard", MOST)) {
                try {
                    entries.add(entry(node));
                } catch (Wrong wrong) {
                    faults.add(wrong.fault());
                }
            }
        } catch (Wrong wrong) {
            faults.add(wrong.fault());
        }
        return carryOut(entries, faults, by);
    }

    private Entry entry(MappingNode node) {
        YamlFile.check(node, KEYS);
        var name = text(node, "name").orElseThrow(() -> new Wrong(line(node), "The guard has no name."));
        if (name.length() > 100) throw new Wrong(line(node), "A name has at most 100 characters.");
        var watchNode = value(node, "watch");
        var ruleNode = value(node, "rule");
        if (!(ruleNode instanceof MappingNode ruleMapping))
            throw new Wrong(line(node), "\"" + name + "\" has no rule.");
        var watch = part(
                watchNode == null ? node : watchNode,
                () -> json.readWatch(watchNode == null ? mapper.createObjectNode() : tree(watchNode)));
        var rule = tree(ruleMapping);
        boolean combination = rule.path("kind").asString("").equals("combination");
        if (!combination) part(ruleMapping, () -> json.readGuard(rule));
        if (!combination && watch.measure().isEmpty())
            throw new Wrong(watchNode == null ? line(node) : line(watchNode), "\"" + name + "\" watches no measure.");
        var active = value(node, "active");
        var owner = text(node, "owner");
        @Nullable
        Long team = owner.isEmpty()
                ? null
                : Long.valueOf(estate.teams().stream()
                        .filter(one ->
                                one.key().equals(owner.get()) || one.name().equals(owner.get()))
                        .findFirst()
                        .orElseThrow(() -> new Wrong(
                                line(java.util.Objects.requireNonNull(value(node, "owner"))),
                                "There is no team \"" + owner.get() + "\"."))
                        .id());
        var note = text(node, "fixNote").orElse("");
        if (note.length() > 20_000) throw new Wrong(line(node), "A fix note has at most 20,000 characters.");
        return new Entry(
                node, line(node), name, active == null || tree(active).asBoolean(true), watch, rule, note, team);
    }

    private static Optional<String> text(MappingNode node, String name) {
        var value = value(node, name);
        if (value == null) return Optional.empty();
        if (!(value instanceof ScalarNode scalar)) throw new Wrong(line(value), name + " must be a text.");
        return scalar.getValue().isBlank() ? Optional.empty() : Optional.of(scalar.getValue());
    }

    private interface Part<T> {
        T read();
    }

    /** Reads a part; what is wrong in it is told at the line of the name that is wrong. */
    private static <T> T part(Node node, Part<T> part) {
        try {
            return part.read();
        } catch (GuardJson.Wrong wrong) {
            throw new Wrong(lineOf(node, wrong.part()), String.valueOf(wrong.getMessage()));
        }
    }

    private static int lineOf(Node node, String name) {
        if (!(node instanceof MappingNode mapping) || name.isEmpty()) return line(node);
        for (var pair : mapping.getValue()) {
            if (pair.getKeyNode() instanceof ScalarNode key && key.getValue().equals(name))
                return line(pair.getKeyNode());
            if (pair.getValueNode() instanceof MappingNode inner && value(inner, name) != null)
                return lineOf(inner, name);
        }
        return line(node);
    }

    private JsonNode tree(Node node) {
        return switch (node) {
            case MappingNode mapping -> {
                var made = mapper.createObjectNode();
                for (var pair : mapping.getValue()) {
                    if (!(pair.getKeyNode() instanceof ScalarNode key))
                        throw new Wrong(line(pair.getKeyNode()), "A name must be a text.");
                    made.set(key.getValue(), tree(pair.getValueNode()));
                }
                yield made;
            }
            case SequenceNode sequence -> {
                var made = mapper.createArrayNode();
                sequence.getValue().forEach(one -> made.add(tree(one)));
                yield made;
            }
            case ScalarNode scalar -> scalar(scalar);
            default -> throw new Wrong(line(node), "This cannot be read.");
        };
    }

    private JsonNode scalar(ScalarNode node) {
        var factory = mapper.getNodeFactory();
        var text = node.getValue();
        try {
            if (node.getTag().equals(Tag.INT) || node.getTag().equals(Tag.FLOAT))
                return factory.numberNode(Double.parseDouble(text.replace("_", "")));
        } catch (NumberFormatException odd) {
            throw new Wrong(line(node), "\"" + text + "\" is not a plain number.");
        }
        if (node.getTag().equals(Tag.BOOL))
            return factory.booleanNode(List.of("true", "yes", "on").contains(text.toLowerCase(java.util.Locale.ROOT)));
        if (node.getTag().equals(Tag.NULL)) return factory.nullNode();
        return factory.stringNode(text);
    }

    /** Those that others are made of come first. */
    private YamlFile.Read carryOut(List<Entry> entries, List<YamlFile.Fault> faults, @Nullable Person by) {
        var ids = new HashMap<String, Long>();
        var standing = new HashMap<String, StoredGuard>();
        for (var guard : store.all()) {
            ids.put(guard.name(), guard.id());
            standing.put(guard.name(), guard);
        }
        long coming = -1;
        var seen = new HashSet<String>();
        for (var entry : entries) {
            if (!seen.add(entry.name()))
                faults.add(new YamlFile.Fault(
                        entry.line(), "The name \"" + entry.name() + "\" stands twice in this file."));
            if (!ids.containsKey(entry.name())) ids.put(entry.name(), coming--);
        }
        var ordered = new ArrayList<>(entries);
        ordered.sort(java.util.Comparator.comparing(
                one -> one.rule().path("kind").asString("").equals("combination")));
        var changes = new ArrayList<YamlFile.Change>();
        int same = 0;
        for (var entry : ordered) {
            try {
                var rule = rule(entry, ids);
                var before = standing.get(entry.name());
                var next = new StoredGuard(
                        before == null ? 0 : before.id(),
                        entry.name(),
                        entry.active(),
                        entry.watch(),
                        rule,
                        entry.fixNote(),
                        entry.owner(),
                        before == null ? 0 : before.version());
                if (next.equals(before)) {
                    same++;
                    continue;
                }
                if (by != null) {
                    if (before == null) ids.put(entry.name(), guards.add(next, by));
                    else guards.change(next, by);
                }
                changes.add(new YamlFile.Change(
                        entry.line(),
                        entry.name(),
                        before == null ? null : words(before),
                        by == null ? words(next) : ""));
            } catch (Wrong wrong) {
                faults.add(wrong.fault());
            } catch (IllegalArgumentException wrong) {
                faults.add(new YamlFile.Fault(entry.line(), String.valueOf(wrong.getMessage())));
            }
        }
        faults.sort(java.util.Comparator.comparingInt(YamlFile.Fault::line));
        return new YamlFile.Read(changes, same, faults);
    }

    private String words(StoredGuard guard) {
        return (guard.active() ? "" : "(off) ") + guards.sentence(guard);
    }

    private Guard rule(Entry entry, Map<String, Long> ids) {
        if (!entry.rule().path("kind").asString("").equals("combination")) return json.readGuard(entry.rule());
        var rule = (ObjectNode) entry.rule().deepCopy();
        var node = java.util.Objects.requireNonNull(value(entry.node(), "rule"));
        var members = mapper.createArrayNode();
        for (var name : entry.rule().path("members")) {
            var id = ids.get(name.asString(""));
            if (id == null)
                throw new Wrong(lineOf(node, "members"), "There is no guard \"" + name.asString("") + "\" to combine.");
            members.add(id.longValue());
        }
        rule.set("members", members);
        return part(node, () -> json.readGuard(rule));
    }
}
