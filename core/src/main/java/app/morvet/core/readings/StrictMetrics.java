package app.morvet.core.readings;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads OpenMetrics 1.0, section "Text format", to the letter; see {@link OpenMetrics#strict}. */
final class StrictMetrics {
    private final OpenMetrics.Page page = OpenMetrics.Page.empty();

    /** Names of families, and of the samples that they may have, by the family that took them first. */
    private final Map<String, String> names = new HashMap<>();

    private @Nullable MetricFamily family;
    private final Set<String> described = new HashSet<>();
    private boolean sampled;

    /** The metric whose lines are being read: its labels, the names of samples and the instants that it has had. */
    private @Nullable Map<String, String> metric;

    private final Set<Map<String, String>> metrics = new HashSet<>();
    private final Map<String, Map<String, String>> labelled = new HashMap<>();
    private final Set<List<Object>> points = new HashSet<>();
    private @Nullable Instant lastAt;
    private boolean timed;

    OpenMetrics.Page read(String text) {
        var lines = new ArrayList<>(List.of(text.split("\n", -1)));
        if (lines.getFirst().startsWith("\uFEFF")) {
            fault(1, "a byte order mark stands before the page");
            lines.set(0, lines.getFirst().substring(1));
        }
        boolean ended = lines.getLast().isEmpty();
        if (ended) lines.removeLast();
        int number = 0;
        boolean eof = false;
        for (var line : lines) {
            number++;
            if (eof) {
                fault(number, "it stands behind # EOF, where nothing may");
                break;
            }
            if (line.equals("# EOF")) {
                eof = true;
                continue;
            }
            try {
                if (number == lines.size() && !ended)
                    throw new IllegalArgumentException("the page ends within this line");
                take(number, line);
            } catch (IllegalArgumentException bad) {
                fault(number, String.valueOf(bad.getMessage()));
            }
        }
        if (!eof) fault(number + 1, "the page does not end with # EOF; the rest of it may be missing");
        close();
        return page.inOrder();
    }

    private void fault(int line, String words) {
        page.faults().add(new OpenMetrics.Fault(line, words));
    }

    private void take(int number, String line) {
        if (line.length() > OpenMetrics.LONGEST_LINE) throw new IllegalArgumentException("the line is too long");
        if (line.isEmpty()) throw new IllegalArgumentException("the line is blank, which none may be");
        if (line.indexOf('\r') >= 0)
            throw new IllegalArgumentException("a carriage return stands in it; lines end in LF alone");
        if (line.startsWith("#")) describe(line);
        else sample(number, line);
    }

    private void describe(String line) {
        var part = line.split(" ", 4);
        if (part.length < 4
                || !part[0].equals("#")
                || !List.of("TYPE", "UNIT", "HELP").contains(part[1]))
            throw new IllegalArgumentException(
                    "only # TYPE, # UNIT and # HELP, each with a name and its words one space apart, and # EOF may stand here");
        var name = part[2];
        var in = new MetricLine(name, true);
        if (!in.name().equals(name)) throw new IllegalArgumentException("\"" + name + "\" is no name of a metric");
        if (family == null || !family.name.equals(name)) open(name);
        if (sampled) throw new IllegalArgumentException("# " + part[1] + " of " + name + " stands behind its samples");
        if (!described.add(part[1]))
            throw new IllegalArgumentException("# " + part[1] + " of " + name + " stands twice");
        describe(current(), part[1], part[3]);
    }

    private void describe(MetricFamily of, String what, String words) {
        switch (what) {
            case "TYPE" -> {
                var type = FamilyType.of(words);
                if (type == null) throw new IllegalArgumentException("\"" + words + "\" is no type of a metric");
                of.type = type;
                checkUnit(of);
                reserve(of);
            }
            case "UNIT" -> {
                if (!words.isEmpty() && !of.name.endsWith("_" + words))
                    throw new IllegalArgumentException("the unit is %s, so the name must end with _%s, but is %s"
                            .formatted(words, words, of.name));
                of.unit = words;
                checkUnit(of);
            }
            default -> of.help = MetricLine.unescaped(words).replace('\n', ' ');
        }
    }

    private static void checkUnit(MetricFamily of) {
        if ((of.type == FamilyType.INFO || of.type == FamilyType.STATESET) && !of.unit.isEmpty())
            throw new IllegalArgumentException("of type " + of.type.word() + " " + of.name + " has no unit");
    }

    private MetricFamily current() {
        return Objects.requireNonNull(family);
    }

    private void open(String name) {
        close();
        var owner = names.putIfAbsent(name, name);
        if (owner != null)
            throw new IllegalArgumentException(
                    owner.equals(name)
                            ? "the family " + name + " stands in two pieces"
                            : name + " may be taken for a sample of the family " + owner);
        family = new MetricFamily(name, true);
    }

    /** Names that its samples may bear are nobody else's from here on. */
    private void reserve(MetricFamily of) {
        for (var suffix : of.type.suffixes()) {
            var owner = names.putIfAbsent(of.name + suffix, of.name);
            if (owner != null && !owner.equals(of.name))
                throw new IllegalArgumentException("a sample %s of the family %s may be taken for the family %s"
                        .formatted(of.name + suffix, of.name, owner));
        }
    }

    private void close() {
        if (family != null) family.into(page);
        family = null;
        described.clear();
        sampled = false;
        metrics.clear();
        metric = null;
    }

    private void sample(int number, String line) {
        var in = new MetricLine(line, true, labelled);
        var name = in.name();
        var labels = in.labels();
        double value = in.value();
        var at = in.time();
        boolean exemplar = in.exemplar();
        var suffix = suffix(name);
        if (suffix == null) {
            openUndeclared(name);
            suffix = "";
        }
        if (exemplar && !suffix.equals("_total") && !suffix.equals("_bucket"))
            throw new IllegalArgumentException("only totals of counters and buckets have exemplars");
        place(name, labels, at);
        sampled = true;
        current().take(number, suffix, labels, value, at);
    }

    private @Nullable String suffix(String name) {
        if (family == null) return null;
        if (!family.name.equals(name) || described.contains("TYPE")) return family.type.suffix(family.name, name);
        return "";
    }

    /** Without a TYPE it is a family by itself, of which nothing is known but that {@code _total} tells of a counter. */
    private void openUndeclared(String name) {
        if (family != null && family.name.equals(name))
            throw new IllegalArgumentException("samples of the %s %s are called %s"
                    .formatted(
                            family.type.word(),
                            name,
                            String.join(
                                    ", ",
                                    family.type.suffixes().stream()
                                            .map(name::concat)
                                            .toList())));
        open(name);
        var bare = name.endsWith("_total") ? name.substring(0, name.length() - 6) : "";
        if (bare.isEmpty() || names.containsKey(bare)) return;
        current().type = FamilyType.COUNTER;
        current().measure = bare;
    }

    /** Samples of a metric stand together, its points in the order of time, each once. */
    private void place(String name, Map<String, String> labels, @Nullable Instant at) {
        var of = new HashMap<>(labels);
        of.remove("le");
        of.remove("quantile");
        if (current().type == FamilyType.STATESET) of.remove(current().name);
        if (!of.equals(metric)) {
            if (!metrics.add(of))
                throw new IllegalArgumentException("the lines of " + name + of + " do not stand together");
            metric = of;
            points.clear();
            lastAt = at;
            timed = at != null;
        }
        if (timed != (at != null))
            throw new IllegalArgumentException("some lines of " + name + of + " bear a time and some none");
        if (at != null && lastAt != null && at.isBefore(lastAt))
            throw new IllegalArgumentException("the times of " + name + of + " do not ascend");
        lastAt = at;
        if (!points.add(Arrays.asList(name, new HashMap<>(labels), at)))
            throw new IllegalArgumentException("it stands twice");
    }
}
