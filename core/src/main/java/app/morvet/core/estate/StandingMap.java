package app.morvet.core.estate;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What a component needs or stands on, left of it, and what depends on it, right of it, in columns by how many steps away that is. Within a
 * column those stand near to what they hang on, so that few lines cross (the barycentre method of Sugiyama, Tagawa and Toda, 1981).
 *
 * @param columns from the farthest that is needed to the farthest that depends on it
 * @param more    how many were left out since there would be too many
 */
public record StandingMap(List<Column> columns, List<Link> links, int more) {
    private static final int SWEEPS = 4;

    /**
     * @param steps negative for what is needed, 0 for the component itself
     * @param nodes ids from top to bottom
     */
    public record Column(int steps, List<Long> nodes) {}

    /** That {@code upper} needs {@code lower}, or stands on it; both are on the map. */
    public record Link(long lower, long upper, boolean stands) {}

    /**
     * @param farthest how many steps are looked at to each side
     * @param most     how many components are shown at most, the nearest first
     */
    public static StandingMap around(long centre, Links links, int farthest, int most) {
        var steps = new LinkedHashMap<Long, Integer>();
        steps.put(centre, 0);
        int more = spread(centre, steps, farthest, most, true, links)
                + spread(centre, steps, farthest, most, false, links);
        var all = new LinkedHashSet<Link>();
        for (long one : steps.keySet()) {
            var on = links.standsOn(one);
            if (on != null && steps.containsKey(on)) all.add(new Link(on, one, true));
            for (long need : links.needs(one))
                if (steps.containsKey(need) && need != one) all.add(new Link(need, one, false));
        }
        return new StandingMap(ordered(steps, all), List.copyOf(all), more);
    }

    /** Breadth first, down to what is needed or up to what depends; gives back how many had no room. */
    private static int spread(
            long centre, Map<Long, Integer> steps, int farthest, int most, boolean down, Links links) {
        var layer = List.of(centre);
        int more = 0;
        // What stands on each side of the component is found on the side where it is nearer first.
        for (int far = 1; far <= farthest && !layer.isEmpty(); far++) {
            var next = new ArrayList<Long>();
            for (long one : layer) {
                for (long other : down ? below(one, links) : links.dependents(one)) {
                    if (steps.containsKey(other)) continue;
                    if (steps.size() >= most) {
                        more++;
                        continue;
                    }
                    steps.put(other, down ? -far : far);
                    next.add(other);
                }
            }
            layer = next;
        }
        return more;
    }

    private static Collection<Long> below(long one, Links links) {
        var all = new LinkedHashSet<Long>();
        var on = links.standsOn(one);
        if (on != null) all.add(on);
        all.addAll(links.needs(one));
        return all;
    }

    private static List<Column> ordered(Map<Long, Integer> steps, Collection<Link> links) {
        var columns = new TreeMap<Integer, List<Long>>();
        steps.forEach((node, step) ->
                columns.computeIfAbsent(step, none -> new ArrayList<>()).add(node));
        var beside = new HashMap<Long, List<Long>>();
        for (var link : links) {
            beside.computeIfAbsent(link.lower(), none -> new ArrayList<>()).add(link.upper());
            beside.computeIfAbsent(link.upper(), none -> new ArrayList<>()).add(link.lower());
        }
        var place = new HashMap<Long, Double>();
        columns.values().forEach(nodes -> settle(nodes, place));
        for (int sweep = 0; sweep < SWEEPS; sweep++) {
            for (var nodes :
                    sweep % 2 == 0 ? columns.values() : columns.descendingMap().values()) {
                var middle = new HashMap<Long, Double>();
                for (long node : nodes)
                    middle.put(
                            node,
                            beside.getOrDefault(node, List.of()).stream()
                                    .filter(other -> !steps.get(other).equals(steps.get(node)))
                                    .mapToDouble(place::get)
                                    .average()
                                    .orElse(place.get(node)));
                nodes.sort(Comparator.comparing(middle::get));
                settle(nodes, place);
            }
        }
        return columns.entrySet().stream()
                .map(it -> new Column(it.getKey(), List.copyOf(it.getValue())))
                .toList();
    }

    /** Places of a column are those from its middle, so that columns of different heights lie beside each other. */
    private static void settle(List<Long> nodes, Map<Long, Double> place) {
        for (int i = 0; i < nodes.size(); i++) place.put(nodes.get(i), i - (nodes.size() - 1) / 2.0);
    }

    /** All that depends on a component, through however many others, the nearest first. */
    public static Collection<Long> dependents(long component, Links links) {
        var found = new LinkedHashSet<Long>();
        var layer = List.of(component);
        while (!layer.isEmpty()) {
            var next = new ArrayList<Long>();
            for (long one : layer)
                for (long other : links.dependents(one)) if (other != component && found.add(other)) next.add(other);
            layer = next;
        }
        return found;
    }
}
