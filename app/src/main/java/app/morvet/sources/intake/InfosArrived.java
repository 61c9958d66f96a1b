package app.morvet.sources.intake;

import app.morvet.ground.base.PlainText;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * What components have said of themselves on a page of metrics, or what checks saw of them. Published once they are registered.
 *
 * @param feed that told it; null for what Morvet saw itself
 */
public record InfosArrived(@Nullable Long feed, List<Told> infos) {
    private static final int LONGEST = 1900;

    /**
     * @param component its key
     * @param name      of the info, without its suffix
     */
    public record Told(String component, String name, Map<String, String> labels, Instant at) {}

    /**
     * What a component says in several lines of one info, of each volume for instance, it says together: of each label all
     * values, in order, so that nothing changes with the order of lines.
     */
    static List<Told> together(List<Told> lines) {
        var byInfo = new LinkedHashMap<List<String>, List<Told>>();
        for (var line : lines)
            byInfo.computeIfAbsent(List.of(line.component(), line.name()), none -> new ArrayList<>())
                    .add(line);
        return byInfo.values().stream()
                .map(some -> some.size() == 1 ? some.getFirst() : merged(some))
                .toList();
    }

    private static Told merged(List<Told> some) {
        var values = new TreeMap<String, TreeSet<String>>();
        for (var line : some)
            line.labels().forEach((label, value) -> values.computeIfAbsent(label, none -> new TreeSet<>())
                    .add(value));
        var labels = new TreeMap<String, String>();
        values.forEach((label, all) -> labels.put(label, PlainText.cut(String.join(", ", all), LONGEST)));
        var first = some.getFirst();
        return new Told(first.component(), first.name(), labels, first.at());
    }
}
