package app.morvet.sources.checks;

import static app.morvet.ground.base.YamlFile.at;
import static app.morvet.ground.base.YamlFile.line;
import static app.morvet.ground.base.YamlFile.text;
import static app.morvet.ground.base.YamlFile.value;

import app.morvet.core.checks.Cadence;
import app.morvet.core.checks.Kind;
import app.morvet.core.checks.Kinds;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.WebCall;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.base.YamlFile;
import app.morvet.ground.base.YamlFile.Wrong;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.Outposts;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Checks as a YAML file, out and in. A check is known by its name; what is not in the file stays as it is, and a file that is
 * read a second time changes nothing. What is secret is never in it: it stays with a check as long as that asks the same hosts.
 */
@Service
class CheckFile {
    private static final int MOST = 2000;
    private static final List<String> KEYS =
            List.of("name", "of", "every", "tries", "from", "agree", "active", "kind", "look");

    private record Entry(int line, StoredCheck check, String of) {}

    private final Checks checks;
    private final Outposts outposts;
    private final Estate estate;
    private final MorvetSettings settings;
    private final JsonMapper json;
    private final Clock clock;

    CheckFile(Checks checks, Outposts outposts, Estate estate, MorvetSettings settings, JsonMapper json, Clock clock) {
        this.checks = checks;
        this.outposts = outposts;
        this.estate = estate;
        this.settings = settings;
        this.json = json;
        this.clock = clock;
    }

    private List<StoredCheck> all() {
        return checks.page("", 0, Integer.MAX_VALUE);
    }

    String write() {
        var names = checks.names();
        return YamlFile.write(
                "checks",
                all().stream()
                        .map(one -> {
                            var entry = new LinkedHashMap<String, Object>();
                            entry.put("name", one.name());
                            entry.put("of", estate.component(one.component()).key());
                            entry.put("every", one.every().text());
                            entry.put("tries", one.tries());
                            if (!one.from().isEmpty())
                                entry.put(
                                        "from",
                                        one.from().stream().map(names::get).toList());
                            if (one.agree() > 1) entry.put("agree", one.agree());
                            if (!one.active()) entry.put("active", false);
                            entry.put("kind", one.look().kind().key());
                            entry.put("look", new TreeMap<>(one.look().fields()));
                            return entry;
                        })
                        .toList());
    }

    YamlFile.Read read(String text) {
        return read(text, new ArrayList<>());
    }

    private YamlFile.Read read(String text, List<Entry> changed) {
        var faults = new ArrayList<YamlFile.Fault>();
        var changes = new ArrayList<YamlFile.Change>();
        int same = 0;
        var standing = new HashMap<String, StoredCheck>();
        all().forEach(one -> standing.put(one.name(), one));
        var names = checks.names();
        var seen = new HashSet<String>();
        List<MappingNode> nodes;
        try {
            nodes = YamlFile.entries(text, "checks", "check", MOST);
        } catch (Wrong wrong) {
            return new YamlFile.Read(List.of(), 0, List.of(wrong.fault()));
        }
        for (var node : nodes) {
            try {
                var entry = entry(node, standing);
                var name = entry.check().name();
                if (!seen.add(name))
                    throw new Wrong(node, "The check \"%s\" stands twice in the file.".formatted(name));
                var before = standing.get(name);
                if (before != null && alike(before, entry)) same++;
                else {
                    changed.add(entry);
                    changes.add(new YamlFile.Change(
                            entry.line(),
                            name,
                            before == null ? null : sentence(before, names),
                            sentence(entry.check(), names)));
                }
            } catch (Wrong wrong) {
                faults.add(wrong.fault());
            }
        }
        return new YamlFile.Read(changes, same, faults);
    }

    private static String sentence(StoredCheck one, Map<Long, String> names) {
        return Checks.sentence(one, names) + (one.active() ? "" : " Switched off.");
    }

    private boolean alike(StoredCheck before, Entry entry) {
        var now = entry.check();
        var of = estate.component(before.component());
        return before.every().text().equals(now.every().text())
                && before.tries() == now.tries()
                && before.agree() == now.agree()
                && before.active() == now.active()
                && before.from().equals(now.from())
                && before.look().kind() == now.look().kind()
                && before.look().fields().equals(now.look().fields())
                && (entry.of().equals(of.key()) || entry.of().equalsIgnoreCase(of.name()));
    }

    private Entry entry(MappingNode node, Map<String, StoredCheck> standing) {
        YamlFile.check(node, KEYS);
        var name = text(node, "name", "");
        if (name.isEmpty() || name.length() > 100)
            throw new Wrong(node, "A check has a name of at most 100 characters.");
        var of = text(node, "of", "");
        if (of.isEmpty()) throw new Wrong(node, "Say of what \"%s\" is a check.".formatted(name));
        var kind = kind(node);
        var look = look(node, kind);
        var from = from(node);
        int agree = whole(node, "agree", 1);
        if (agree < 1 || agree > Math.max(1, from.size()))
            throw new Wrong(at(node, "agree"), "Of those that ask, 1 to all of them can agree.");
        if (kind.onHost() && from.isEmpty())
            throw new Wrong(
                    at(node, "kind"), "A check of a %s is made by an outpost; say from which.".formatted(kind.name()));
        int tries = whole(node, "tries", 1);
        if (tries < 1 || tries > Checks.MOST_TRIES)
            throw new Wrong(at(node, "tries"), "A check is tried 1 to 5 times.");
        var before = standing.get(name);
        return new Entry(
                line(node),
                new StoredCheck(
                        before == null ? 0 : before.id(),
                        name,
                        0,
                        every(node),
                        tries,
                        look,
                        from,
                        agree,
                        !text(node, "active", "true").equals("false"),
                        before == null ? 0 : before.version(),
                        null),
                of);
    }

    private static Kind kind(MappingNode node) {
        try {
            return Kinds.byKey(text(node, "kind", "http"));
        } catch (IllegalArgumentException wrong) {
            throw new Wrong(at(node, "kind"), Sentence.of(wrong));
        }
    }

    private static Look look(MappingNode node, Kind kind) {
        if (!(value(node, "look") instanceof MappingNode given))
            throw new Wrong(node, "A check has its fields under \"look:\".");
        var fields = new LinkedHashMap<String, String>();
        for (var pair : given.getValue()) {
            if (!(pair.getKeyNode() instanceof ScalarNode name) || !(pair.getValueNode() instanceof ScalarNode said))
                throw new Wrong(pair.getKeyNode(), "The fields of a check are texts.");
            fields.put(name.getValue(), said.getValue());
        }
        var own = Look.own(kind, fields);
        for (var pair : given.getValue()) {
            var name = ((ScalarNode) pair.getKeyNode()).getValue();
            if (!own.containsKey(name) && !fields.getOrDefault(name, "").isBlank())
                throw new Wrong(
                        pair.getKeyNode(),
                        "\"%s\" is not known of a %s; known are %s."
                                .formatted(
                                        name,
                                        kind.name(),
                                        String.join(
                                                ", ",
                                                kind.fields().stream()
                                                        .map(Kind.Field::name)
                                                        .toList())));
        }
        var read = kind.read(own);
        var target = read.target();
        if (target != null) return new Look(kind, own, target);
        var first = read.errors().entrySet().iterator().next();
        var where = value(given, first.getKey());
        throw new Wrong(where == null ? given : where, Sentence.of(new IllegalArgumentException(first.getValue())));
    }

    private List<Long> from(MappingNode node) {
        var given = value(node, "from");
        if (given == null) return List.of();
        if (!(given instanceof SequenceNode list)) throw new Wrong(given, "\"from\" is a list of outposts.");
        var ids = new ArrayList<Long>();
        for (var one : list.getValue()) {
            var name = one instanceof ScalarNode scalar ? scalar.getValue() : "";
            ids.add(outposts.standing().stream()
                    .filter(it -> it.name().equals(name))
                    .map(Outpost::id)
                    .findFirst()
                    .orElseThrow(() -> new Wrong(one, "There is no outpost \"%s\".".formatted(name))));
        }
        return ids.stream().sorted().distinct().toList();
    }

    private Cadence every(MappingNode node) {
        try {
            return Cadence.read(text(node, "every", "5 min"), settings.zone(), clock.instant());
        } catch (IllegalArgumentException wrong) {
            throw new Wrong(at(node, "every"), Sentence.of(wrong));
        }
    }

    private static int whole(MappingNode node, String name, int otherwise) {
        var text = text(node, name, "" + otherwise);
        if (!text.matches("\\d{1,6}")) throw new Wrong(at(node, name), "\"%s\" is not a whole number.".formatted(text));
        return Integer.parseInt(text);
    }

    /** Nothing of it is done where something is wrong. */
    @Transactional
    public YamlFile.Read apply(String text, Person by) {
        var entries = new ArrayList<Entry>();
        var read = read(text, entries);
        if (!read.faults().isEmpty()) return read;
        for (var entry : entries) {
            var before = entry.check().id() == 0
                    ? null
                    : checks.find(entry.check().id()).orElse(null);
            boolean sameHosts = before != null
                    && before.look()
                            .target()
                            .hosts()
                            .containsAll(entry.check().look().target().hosts());
            try {
                checks.keep(
                        entry.check(),
                        sameHosts ? checks.secrets(before.id()) : StoredCheck.Secrets.NONE,
                        entry.of(),
                        by);
            } catch (IllegalArgumentException wrong) {
                throw new Wrong(entry.line(), String.valueOf(wrong.getMessage()));
            }
        }
        return read;
    }

    /** What may stand in the file, as JSON Schema 2020-12, made of the kinds there are. */
    String schema() {
        var schema = json.createObjectNode()
                .put("$schema", "https://json-schema.org/draft/2020-12/schema")
                .put("title", "Checks of Morvet")
                .put("type", "object")
                .put("additionalProperties", false);
        schema.putArray("required").add("checks");
        var check = schema.putObject("properties")
                .putObject("checks")
                .put("type", "array")
                .put("maxItems", MOST)
                .putObject("items")
                .put("type", "object")
                .put("additionalProperties", false);
        check.putArray("required").add("name").add("of").add("look");
        var properties = check.putObject("properties");
        properties.putObject("name").put("type", "string").put("maxLength", 100);
        properties.putObject("of").put("type", "string").put("description", "name or key of a component");
        properties
                .putObject("every")
                .put("type", "string")
                .put("description", "10 s to 1 day, or a cron expression of five fields");
        properties.putObject("tries").put("type", "integer").put("minimum", 1).put("maximum", Checks.MOST_TRIES);
        properties.putObject("from").put("type", "array").putObject("items").put("type", "string");
        properties.putObject("agree").put("type", "integer").put("minimum", 1);
        properties.putObject("active").put("type", "boolean");
        properties.putObject("look").put("type", "object");
        var keys = properties.putObject("kind").putArray("enum");
        var kinds = check.putArray("allOf");
        for (var kind : Kinds.ALL) {
            keys.add(kind.key());
            var one = kinds.addObject();
            one.putObject("if").putObject("properties").putObject("kind").put("const", kind.key());
            fields(kind, one.putObject("then").putObject("properties").putObject("look"));
        }
        return schema.toPrettyString();
    }

    private static void fields(Kind kind, ObjectNode look) {
        look.put("additionalProperties", false).put("description", kind.sentence());
        var fields = look.putObject("properties");
        for (var field : kind.fields()) field(fields.putObject(field.name()), field);
        if (kind != WebCall.KIND) return;
        for (int n = 2; n <= WebCall.MOST_STEPS; n++)
            for (var field : kind.fields())
                if (WebCall.isOfEachStep(field.name())) field(fields.putObject(field.name() + n), field);
    }

    private static void field(ObjectNode node, Kind.Field field) {
        node.put("description", field.label());
        node.putArray("type").add("string").add("number").add("boolean");
        if (field.choices().isEmpty()) return;
        node.put("type", "string");
        var choices = node.putArray("enum");
        field.choices().forEach(choices::add);
    }
}
