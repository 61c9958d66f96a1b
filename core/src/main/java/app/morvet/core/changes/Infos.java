package app.morvet.core.changes;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/** What a component says of itself in an info of OpenMetrics (1.0, section on Info), and how that has changed. */
public final class Infos {
    private Infos() {}

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
                    name.equals("version")
                            ? new Change(at, "version", info, was, is, "", "")
                            : new Change(at, "setting", info + " " + name, was, is, "", ""));
        }
        return changes;
    }
}
