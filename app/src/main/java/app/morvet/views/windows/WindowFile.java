package app.morvet.views.windows;

import static app.morvet.ground.base.YamlFile.at;
import static app.morvet.ground.base.YamlFile.line;
import static app.morvet.ground.base.YamlFile.value;

import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import app.morvet.core.windows.MaintenanceWindow.Jobs;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.base.YamlFile;
import app.morvet.ground.base.YamlFile.Wrong;
import app.morvet.ground.estate.ScopeJson;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Windows as a YAML file, out and in: those that are not over. A window is known by its name; what is not in the file stays as it is,
 * and a file that is read a second time changes nothing.
 */
@Service
class WindowFile {
    private static final int MOST = 2000;
    private static final List<String> KEYS = List.of(
            "name",
            "over",
            "effect",
            "jobs",
            "from",
            "to",
            "again",
            "lasting",
            "until",
            "zone",
            "calendar",
            "skipped",
            "moved",
            "quiet",
            "tell",
            "reason");
    private static final List<String> SCOPE =
            List.of("application", "kind", "tier", "environment", "name", "group", "chain", "onIt");
    private static final String NOT_EXPECTED = "not expected";

    private record Entry(int line, StoredWindow window) {}

    private final Windows windows;
    private final MorvetSettings settings;
    private final JsonMapper json;
    private final Clock clock;

    WindowFile(Windows windows, MorvetSettings settings, JsonMapper json, Clock clock) {
        this.windows = windows;
        this.settings = settings;
        this.json = json;
        this.clock = clock;
    }

    private List<StoredWindow> all() {
        var now = clock.instant();
        return windows.all().stream()
                .filter(one -> !one.window().plan().isOver(now))
                .toList();
    }

    String write() {
        return YamlFile.write("windows", all().stream().map(this::entry).toList());
    }

    private Map<String, Object> entry(StoredWindow one) {
        var window = one.window();
        var plan = window.plan();
        var entry = new LinkedHashMap<String, Object>();
        entry.put("name", window.name());
        entry.put("over", json.readValue(ScopeJson.write(window.scope()), TreeMap.class));
        entry.put("effect", window.effect().name().toLowerCase(Locale.ROOT));
        if (window.jobs() == Jobs.NOT_EXPECTED) entry.put("jobs", NOT_EXPECTED);
        var first = plan.first();
        var zone = plan.zone();
        if (!zone.equals(settings.zone())) entry.put("zone", zone.getId());
        if (first != null) {
            entry.put("from", local(first, zone));
            entry.put("to", local(first.plus(plan.length()), zone));
        } else {
            entry.put("again", RhythmText.of(plan.again()));
            entry.put("lasting", Spans.words(plan.length()));
            if (plan.until() != null) entry.put("until", plan.until().toString());
        }
        if (!one.calendar().isEmpty()) entry.put("calendar", one.calendar());
        if (!plan.skipped().isEmpty())
            entry.put(
                    "skipped",
                    plan.skipped().stream().map(LocalDateTime::toString).toList());
        if (!plan.altered().isEmpty()) {
            var moved = new LinkedHashMap<String, Object>();
            plan.altered()
                    .forEach((meant, span) ->
                            moved.put(meant.toString(), local(span.from(), zone) + " to " + local(span.to(), zone)));
            entry.put("moved", moved);
        }
        if (one.quiet()) entry.put("quiet", true);
        if (one.told() != null) entry.put("tell", Spans.words(one.told()));
        if (!window.reason().isEmpty()) entry.put("reason", window.reason());
        return entry;
    }

    private static String local(Instant at, ZoneId zone) {
        return LocalDateTime.ofInstant(at, zone).toString();
    }

    YamlFile.Read read(String text) {
        return read(text, new ArrayList<>());
    }

    private YamlFile.Read read(String text, List<Entry> changed) {
        var standing = new HashMap<String, StoredWindow>();
        all().forEach(one -> standing.put(one.window().name(), one));
        var faults = new ArrayList<YamlFile.Fault>();
        var changes = new ArrayList<YamlFile.Change>();
        int same = 0;
        var seen = new HashSet<String>();
        List<MappingNode> nodes;
        try {
            nodes = YamlFile.entries(text, "windows", "window", MOST);
        } catch (Wrong wrong) {
            return new YamlFile.Read(List.of(), 0, List.of(wrong.fault()));
        }
        for (var node : nodes) {
            try {
                var one = window(node, standing);
                var name = one.window().name();
                if (!seen.add(name))
                    throw new Wrong(node, "The window \"%s\" stands twice in the file.".formatted(name));
                var before = standing.get(name);
                if (before != null && alike(before, one)) same++;
                else {
                    changed.add(new Entry(line(node), one));
                    changes.add(new YamlFile.Change(
                            line(node), name, before == null ? null : windows.sentence(before), windows.sentence(one)));
                }
            } catch (Wrong wrong) {
                faults.add(wrong.fault());
            }
        }
        return new YamlFile.Read(changes, same, faults);
    }

    private static boolean alike(StoredWindow one, StoredWindow other) {
        return one.window().equals(other.window())
                && one.calendar().equals(other.calendar())
                && one.quiet() == other.quiet()
                && Objects.equals(one.told(), other.told());
    }

    private StoredWindow window(MappingNode node, Map<String, StoredWindow> standing) {
        YamlFile.check(node, KEYS);
        try {
            var calendar = text(node, "calendar");
            var window = new MaintenanceWindow(
                    text(node, "name"),
                    scope(node),
                    plan(node, calendar),
                    effect(node),
                    jobs(node),
                    text(node, "reason"));
            var before = standing.get(window.name());
            return new StoredWindow(
                    before == null ? 0 : before.id(),
                    window,
                    calendar,
                    text(node, "quiet").equals("true"),
                    Spans.readOrNone(text(node, "tell")),
                    before == null ? null : before.madeBy(),
                    before == null ? 0 : before.version());
        } catch (IllegalArgumentException wrong) {
            throw new Wrong(node, Sentence.of(wrong));
        }
    }

    private Scope scope(MappingNode node) {
        var given = value(node, "over");
        if (given == null) return Scope.ALL;
        if (!(given instanceof MappingNode over))
            throw new Wrong(given, "\"over\" says over what, such as {name: quay-05}.");
        YamlFile.check(over, SCOPE);
        var scope = json.createObjectNode();
        for (var key : SCOPE) {
            var said = text(over, key);
            if (said.isEmpty()) continue;
            if (key.equals("tier")) scope.put(key, whole(over, key, said));
            else if (key.equals("onIt")) scope.put(key, said.equals("true"));
            else scope.put(key, said);
        }
        return ScopeJson.read(scope);
    }

    private static int whole(MappingNode node, String key, String text) {
        if (!text.matches("\\d")) throw new Wrong(at(node, key), "A tier is 1, 2, 3 or 4.");
        return Integer.parseInt(text);
    }

    private static Effect effect(MappingNode node) {
        var said = text(node, "effect");
        for (var one : Effect.values()) if (one.name().equalsIgnoreCase(said.isEmpty() ? "hold" : said)) return one;
        throw new Wrong(at(node, "effect"), "\"effect\" is hold, pause or none.");
    }

    private static Jobs jobs(MappingNode node) {
        return switch (text(node, "jobs")) {
            case "", "as ever" -> Jobs.AS_EVER;
            case NOT_EXPECTED -> Jobs.NOT_EXPECTED;
            default -> throw new Wrong(at(node, "jobs"), "\"jobs\" is \"as ever\" or \"not expected\".");
        };
    }

    private Plan plan(MappingNode node, String calendar) {
        var zone = zone(node);
        if (text(node, "again").isEmpty())
            return Plan.once(instant(node, "from", zone), instant(node, "to", zone), zone);
        var skipped = new TreeSet<LocalDateTime>();
        if (value(node, "skipped") instanceof SequenceNode list)
            for (var one : list.getValue()) skipped.add(time(one, one instanceof ScalarNode it ? it.getValue() : ""));
        var altered = new TreeMap<LocalDateTime, Plan.Span>();
        if (value(node, "moved") instanceof MappingNode moved)
            for (var one : moved.getValue()) {
                var meant = one.getKeyNode() instanceof ScalarNode it ? it.getValue() : "";
                var span = (one.getValueNode() instanceof ScalarNode it ? it.getValue() : "").split(" to ");
                if (span.length != 2)
                    throw new Wrong(one.getValueNode(), "A time is moved to 2027-03-02T22:40 to 2027-03-02T23:30.");
                altered.put(
                        time(one.getKeyNode(), meant),
                        new Plan.Span(
                                time(one.getValueNode(), span[0]).atZone(zone).toInstant(),
                                time(one.getValueNode(), span[1]).atZone(zone).toInstant()));
            }
        var until = text(node, "until");
        return new Plan(
                null,
                RhythmText.read(text(node, "again"), windows.calendarOf(calendar)),
                zone,
                Spans.read(text(node, "lasting")),
                until.isEmpty() ? null : day(node, until),
                skipped,
                altered);
    }

    private static LocalDate day(MappingNode node, String text) {
        try {
            return LocalDate.parse(text);
        } catch (DateTimeException wrong) {
            throw new Wrong(at(node, "until"), "\"%s\" is no day such as 2027-03-02.".formatted(text));
        }
    }

    /** Of the clock by which its times are meant; that of the house where none is named. */
    private ZoneId zone(MappingNode node) {
        var said = text(node, "zone");
        try {
            return said.isEmpty() ? settings.zone() : ZoneId.of(said);
        } catch (DateTimeException wrong) {
            throw new Wrong(at(node, "zone"), "\"%s\" is no zone such as Europe/Helsinki.".formatted(said));
        }
    }

    private static Instant instant(MappingNode node, String key, ZoneId zone) {
        var text = text(node, key);
        if (text.isEmpty()) throw new Wrong(node, "A window has \"from\" and \"to\", or \"again\" and \"lasting\".");
        return time(at(node, key), text).atZone(zone).toInstant();
    }

    private static LocalDateTime time(Node at, String text) {
        try {
            return LocalDateTime.parse(text.strip());
        } catch (DateTimeException wrong) {
            throw new Wrong(at, "\"%s\" is no day and time such as 2027-03-02T22:40.".formatted(text));
        }
    }

    private static String text(MappingNode node, String name) {
        return YamlFile.text(node, name, "");
    }

    /** Nothing of it is done where something is wrong. */
    @Transactional
    public YamlFile.Read apply(String text, Person by) {
        var entries = new ArrayList<Entry>();
        var read = read(text, entries);
        if (!read.faults().isEmpty()) return read;
        for (var entry : entries) {
            try {
                windows.keep(entry.window(), by);
            } catch (IllegalArgumentException | Windows.Overtaken wrong) {
                throw new Wrong(entry.line(), Sentence.of(String.valueOf(wrong.getMessage())));
            }
        }
        return read;
    }

    /** What may stand in the file, as JSON Schema 2020-12. */
    String schema() {
        var schema = json.createObjectNode()
                .put("$schema", "https://json-schema.org/draft/2020-12/schema")
                .put("title", "Windows of Morvet")
                .put("type", "object")
                .put("additionalProperties", false);
        schema.putArray("required").add("windows");
        var one = schema.putObject("properties")
                .putObject("windows")
                .put("type", "array")
                .put("maxItems", MOST)
                .putObject("items")
                .put("type", "object")
                .put("additionalProperties", false);
        one.putArray("required").add("name");
        var properties = one.putObject("properties");
        for (var key : List.of("name", "from", "to", "again", "lasting", "until", "zone", "calendar", "tell", "reason"))
            properties.putObject(key).put("type", "string");
        properties.putObject("effect").putArray("enum").add("hold").add("pause").add("none");
        properties.putObject("jobs").putArray("enum").add("as ever").add(NOT_EXPECTED);
        properties.putObject("quiet").put("type", "boolean");
        properties.putObject("skipped").put("type", "array").putObject("items").put("type", "string");
        properties
                .putObject("moved")
                .put("type", "object")
                .putObject("additionalProperties")
                .put("type", "string");
        var over = properties
                .putObject("over")
                .put("type", "object")
                .put("additionalProperties", false)
                .putObject("properties");
        for (var key : SCOPE)
            over.putObject(key).put("type", key.equals("tier") ? "integer" : key.equals("onIt") ? "boolean" : "string");
        return schema.toPrettyString();
    }
}
