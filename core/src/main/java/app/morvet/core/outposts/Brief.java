package app.morvet.core.outposts;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;

/**
 * What one outpost is to measure. The nearest who asks wins: what is asked of this outpost over what is asked of a group, that
 * over what is asked of all. Of two groups the one that asks for it more often wins, so that nobody misses anything.
 */
public record Brief(List<Line> lines) {
    /**
     * @param ask  that holds
     * @param over who else asks for the same, from further away, from the nearest on
     */
    public record Line(Ask ask, List<Ask> over) {}

    /** @param asks all that concern this outpost, in any order */
    public static Brief of(List<Ask> asks) {
        var byWhat = new TreeMap<String, List<Ask>>();
        asks.forEach(one ->
                byWhat.computeIfAbsent(one.what(), none -> new ArrayList<>()).add(one));
        return new Brief(byWhat.values().stream()
                .map(some -> {
                    some.sort(Comparator.comparing(Ask::whence)
                            .reversed()
                            .thenComparing(one -> !one.active())
                            .thenComparing(Ask::every)
                            .thenComparing(Ask::name));
                    return new Line(some.getFirst(), List.copyOf(some.subList(1, some.size())));
                })
                .toList());
    }

    /** Those that are to be measured. */
    public List<Ask> active() {
        return lines.stream().map(Line::ask).filter(Ask::active).toList();
    }
}
