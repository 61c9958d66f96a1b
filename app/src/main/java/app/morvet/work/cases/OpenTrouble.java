package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What is open, read once for a page that shows several sides of it.
 *
 * @param up     all alerts that are up
 * @param cases  the open cases
 * @param caseOf the open case of each alert that is up and in one, by the id of the alert
 */
public record OpenTrouble(List<Alert> up, List<WorkCase> cases, Map<Long, WorkCase> caseOf) {
    /** The components on which each case shows, by its id. */
    Map<Long, Set<Long>> touched() {
        var touched = new HashMap<Long, Set<Long>>();
        for (var one : up) {
            var in = caseOf.get(one.id());
            if (in != null)
                touched.computeIfAbsent(in.id(), none -> new HashSet<>())
                        .add(one.about().component());
        }
        return touched;
    }
}
