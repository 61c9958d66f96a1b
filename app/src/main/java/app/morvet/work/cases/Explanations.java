package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Origins;
import app.morvet.ground.estate.Estate;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Finds open trouble that explains an alert: something that its component needs, of a kind that what raised it names. A certificate that ran out explains a refused handshake; a full disk does not.
 */
@Component
class Explanations {
    private static final int FARTHEST = 4;

    /** @param why in words, for the log */
    record Explanation(long by, String why) {}

    /** A needed component, and in words how it is needed. */
    private record Needed(Estate.Component component, String how, int far) {}

    private final CaseStore store;
    private final CaseAlerts alerts;
    private final Origins origins;
    private final Estate estate;

    Explanations(CaseStore store, CaseAlerts alerts, Origins origins, Estate estate) {
        this.store = store;
        this.alerts = alerts;
        this.origins = origins;
        this.estate = estate;
    }

    Optional<Explanation> of(Alert alert) {
        return of(origins.of(alert).explainedBy(alert), alert.about().component());
    }

    /** The open case of one of these kinds that explains trouble of a component: of the nearest, the oldest. */
    Optional<Explanation> of(Set<String> kinds, long component) {
        if (kinds.isEmpty()) return Optional.empty();
        var needed = needed(component);
        return store.open().stream()
                .filter(one -> one.overSince() == null && one.component() != component)
                .filter(one -> needed.containsKey(one.component())
                        && kinds.contains(
                                needed.get(one.component()).component().kind()))
                .filter(this::isNow)
                .min(Comparator.comparing(
                                (WorkCase one) -> needed.get(one.component()).far())
                        .thenComparing(WorkCase::id))
                .map(one -> new Explanation(one.id(), why(one, needed.get(one.component()), component)));
    }

    /** What needs a component or stands on it, through others too; most things have nothing of the sort. */
    Set<Long> dependents(long component) {
        var found = new LinkedHashSet<Long>();
        var layer = List.of(component);
        for (int far = 0; far < FARTHEST && !layer.isEmpty(); far++) {
            layer = layer.stream()
                    .flatMap(id -> Stream.concat(estate.needing(id).stream(), estate.standingOn(id).stream()))
                    .map(Estate.Component::id)
                    .filter(found::add)
                    .toList();
        }
        found.remove(component);
        return found;
    }

    /** What is only foretold explains nothing yet. */
    private boolean isNow(WorkCase one) {
        return alerts.upOf(one.id()).stream()
                .anyMatch(alert -> !origins.of(alert).foretells(alert));
    }

    private String why(WorkCase one, Needed needed, long component) {
        return "%s %s the %s %s: %s"
                .formatted(
                        estate.component(component).name(),
                        needed.how(),
                        needed.component().kind(),
                        needed.component().name(),
                        one.headline());
    }

    private Map<Long, Needed> needed(long component) {
        var found = new LinkedHashMap<Long, Needed>();
        var left = new ArrayDeque<Needed>();
        left.add(new Needed(estate.component(component), "", 0));
        while (!left.isEmpty()) {
            var one = left.poll();
            if (one.far() >= FARTHEST) continue;
            for (var need : estate.needsOf(one.component().id())) add(need, "needs", one, found, left);
            var on = one.component().standsOn();
            if (on != null) add(estate.component(on), "stands on", one, found, left);
        }
        found.remove(component);
        return found;
    }

    private static void add(
            Estate.Component next, String how, Needed from, Map<Long, Needed> found, ArrayDeque<Needed> left) {
        var words = from.how().isEmpty()
                ? how
                : "needs, through " + from.component().name() + ",";
        var needed = new Needed(next, words, from.far() + 1);
        if (found.putIfAbsent(next.id(), needed) == null) left.add(needed);
    }
}
