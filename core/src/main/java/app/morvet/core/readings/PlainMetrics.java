package app.morvet.core.readings;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads the plain-text ancestor of OpenMetrics; see {@link OpenMetrics#lenient}. */
final class PlainMetrics {
    private static final String[] SUFFIXES = {
        "_total", "_bucket", "_count", "_sum", "_gcount", "_gsum", "_created", "_info"
    };

    private record Line(int number, String text) {}

    private final Map<String, MetricFamily> families = new LinkedHashMap<>();
    private final Map<String, Map<String, String>> labelled = new HashMap<>();
    private final OpenMetrics.Page page = OpenMetrics.Page.empty();

    OpenMetrics.Page read(String text) {
        var samples = new java.util.ArrayList<Line>();
        int number = 0;
        var whole = text.startsWith("\uFEFF") ? text.substring(1) : text;
        for (var line : (Iterable<String>) whole.lines()::iterator) {
            number++;
            var stripped = line.strip();
            if (stripped.equals("# EOF")) break;
            if (stripped.isEmpty()) continue;
            if (line.length() > OpenMetrics.LONGEST_LINE)
                page.faults().add(new OpenMetrics.Fault(number, "the line is too long"));
            else if (stripped.startsWith("#")) describe(stripped);
            else samples.add(new Line(number, stripped));
        }
        nameCounters();
        for (var line : samples) {
            try {
                sample(line);
            } catch (IllegalArgumentException bad) {
                page.faults().add(new OpenMetrics.Fault(line.number(), String.valueOf(bad.getMessage())));
            }
        }
        families.values().forEach(family -> family.into(page));
        return page.inOrder();
    }

    private void describe(String line) {
        var part = line.split("[ \t]+", 4);
        if (part.length < 3 || !part[0].equals("#")) return;
        var rest = part.length > 3 ? part[3].strip() : "";
        switch (part[1]) {
            case "TYPE" -> {
                var type = FamilyType.of(rest);
                family(part[2]).type = type == null ? FamilyType.UNKNOWN : type;
            }
            case "UNIT" -> family(part[2]).unit = rest;
            case "HELP" -> family(part[2]).help = MetricLine.unescaped(rest).replace('\n', ' ');
            default -> {
                // an ordinary comment
            }
        }
    }

    private MetricFamily family(String name) {
        return families.computeIfAbsent(name, none -> new MetricFamily(name, false));
    }

    /** A family {@code orders_total} of counters is known as {@code orders}, unless another is. */
    private void nameCounters() {
        for (var family : families.values()) {
            var bare = withoutTotal(family.name);
            if (family.type == FamilyType.COUNTER && bare != null && !families.containsKey(bare)) family.measure = bare;
        }
    }

    private static @Nullable String withoutTotal(String name) {
        return name.endsWith("_total") && name.length() > 6 ? name.substring(0, name.length() - 6) : null;
    }

    private void sample(Line line) {
        var in = new MetricLine(line.text(), false, labelled);
        var name = in.name();
        var labels = in.labels();
        double value = in.value();
        var at = in.time();
        in.exemplar();
        var family = families.get(name);
        if (family == null || !bears(family)) {
            for (var suffix : SUFFIXES) {
                var owner =
                        name.endsWith(suffix) ? families.get(name.substring(0, name.length() - suffix.length())) : null;
                if (owner != null && owner.type.suffixes().contains(suffix)) {
                    owner.take(line.number(), suffix, labels, value, at);
                    return;
                }
            }
            if (family == null) family = undeclared(name);
        }
        family.take(line.number(), "", labels, value, at);
    }

    /** Whether a sample may bear the very name of the family. */
    private static boolean bears(MetricFamily family) {
        return family.type == FamilyType.COUNTER || family.type.suffixes().contains("");
    }

    private MetricFamily undeclared(String name) {
        var family = family(name);
        var bare = withoutTotal(name);
        if (bare != null) {
            family.type = FamilyType.COUNTER;
            if (!families.containsKey(bare)) family.measure = bare;
        }
        return family;
    }
}
