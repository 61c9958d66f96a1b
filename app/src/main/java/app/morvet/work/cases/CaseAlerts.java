package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Origins;
import app.morvet.sources.messages.MessageScope;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The alerts of a case, and what they say of it together. */
@Component
class CaseAlerts {
    private final CaseStore store;
    private final Alerts alerts;
    private final Origins origins;

    CaseAlerts(CaseStore store, Alerts alerts, Origins origins) {
        this.store = store;
        this.alerts = alerts;
        this.origins = origins;
    }

    /** The one that tells most first: the headline is its, and so is the curve that stands on top. */
    List<Alert> of(long caseId) {
        return alerts.inTellingOrder(store.alerts(caseId));
    }

    /** The same as the case tells them: those of its cause before those that it explains, among what is up and among what is over. */
    List<Alert> told(WorkCase one) {
        return of(one.id()).stream()
                .sorted(Comparator.comparing((Alert alert) -> !alert.up())
                        .thenComparing(alert -> alert.about().cause() != one.component() && !isEverywhere(one)))
                .toList();
    }

    private static boolean isEverywhere(WorkCase one) {
        return one.topic() != null && one.topic().everywhere();
    }

    List<Alert> upOf(long caseId) {
        return alerts.byIds(store.alerts(caseId)).stream().filter(Alert::up).toList();
    }

    OpenTrouble openTrouble() {
        var up = alerts.up();
        var open = store.open();
        var byId = open.stream().collect(Collectors.toMap(WorkCase::id, one -> one));
        var caseOf = new HashMap<Long, WorkCase>();
        store.casesOf(up.stream().map(Alert::id).toList()).forEach((alert, id) -> {
            var one = byId.get(id);
            if (one != null) caseOf.put(alert, one);
        });
        return new OpenTrouble(up, open, caseOf);
    }

    /** The components on which each open case shows. */
    Map<Long, Set<Long>> touchedByOpen() {
        var components = alerts.componentsOfUp();
        var touched = new HashMap<Long, Set<Long>>();
        store.casesOf(components.keySet()).forEach((alert, id) -> touched.computeIfAbsent(id, none -> new HashSet<>())
                .add(components.get(alert)));
        return touched;
    }

    /** The failed messages of a case: its own, and those of alerts that it explains; none of them twice. */
    List<MessageScope> scopes(WorkCase one, List<Alert> alerts) {
        var scopes = new LinkedHashSet<MessageScope>();
        var topic = one.topic();
        if (one.isAboutFailures()) scopes.add(one.scope());
        if (topic != null && topic.everywhere()) return List.copyOf(scopes);
        for (var alert : alerts) {
            var scope = origins.of(alert).messages(alert);
            // On its own component it is about what its topic says, and about no more.
            if (scope.isPresent() && !(one.isAboutFailures() && alert.about().component() == one.component()))
                scopes.add(scope.get());
        }
        scopes.removeIf(scope -> scope.family() != null
                && scope.component() != null
                && scopes.contains(MessageScope.of(scope.component())));
        return List.copyOf(scopes);
    }
}
