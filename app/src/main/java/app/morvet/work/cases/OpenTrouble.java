package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What is open, read once for all pages that show a side of it.
 *
 * @param up      the alerts that are up and in an open case, the one raised first first
 * @param cases   the open cases
 * @param caseOf  the open case of each of the alerts, by the id of the alert
 * @param touched the components on which each case shows, by its id
 */
public record OpenTrouble(
        List<Alert> up, List<WorkCase> cases, Map<Long, WorkCase> caseOf, Map<Long, Set<Long>> touched) {
    /** @param up all that are up; what somebody has settled while it was up is not told again until it is raised anew */
    static OpenTrouble of(List<Alert> up, List<WorkCase> cases, Map<Long, WorkCase> caseOf) {
        var touched = new HashMap<Long, Set<Long>>();
        var told = up.stream().filter(one -> caseOf.containsKey(one.id())).toList();
        for (var one : told)
            touched.computeIfAbsent(caseOf.get(one.id()).id(), none -> new HashSet<>())
                    .add(one.about().component());
        return new OpenTrouble(told, List.copyOf(cases), Map.copyOf(caseOf), touched);
    }
}
