package app.morvet.core.changes;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/** What a component says of itself in an info of OpenMetrics (1.0, section on Info), and how that has changed. */
public final class Infos {
    /** The label that says which version runs there. */
    public static final String VERSION = "version";

    private Infos() {}

    /**
     * Which of those that should be alike differ: all that have not the version that most have; where no one version has the
     * most, each does.
     *
     * @param versions of each, by whatever tells them apart
     * @return as many
     */
    public static <K> Map<K, Boolean> differing(Map<K, String> versions) {
        var counts = new HashMap<String, Integer>();
        versions.values().forEach(one -> counts.merge(one, 1, Integer::sum));
        int most = counts.values().stream().max(Comparator.naturalOrder()).orElse(0);
        var commonest = counts.entrySet().stream()
                .filter(one -> one.getValue() == most)
                .map(Map.Entry::getKey)
                .toList();
        var differing = new HashMap<K, Boolean>();
        versions.forEach(
                (key, version) -> differing.put(key, commonest.size() > 1 || !version.equals(commonest.getFirst())));
        return differing;
    }

    /**
     * One change for each label that is there, is gone, or is another than before.
     *
     * @param info   name of the info, without its suffix: {@code build}
     * @param before labels as they were said last
     * @param after  as they are said now
     */
    public static List<Change> changes(String info, Map<String, String> before, Map<String, String> after, Instant at) {
        var names = new TreeSet<>(before.keySet());
        names.addAll(after.keySet());
        var changes = new ArrayList<Change>();
        for (var name : names) {
            var was = before.getOrDefault(name, "");
            var is = after.getOrDefault(name, "");
            if (was.equals(is)) continue;
            changes.add(
                    name.equals(VERSION)
                            ? new Change(at, VERSION, info, was, is, "", "")
                            : new Change(at, "setting", info + " " + name, was, is, "", ""));
        }
        return changes;
    }
}
