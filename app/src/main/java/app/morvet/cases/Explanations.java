package app.morvet.cases;

import app.morvet.estate.Estate;
import app.morvet.sorting.SortingRules;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * Finds open trouble that explains why messages fail: something that their interface needs, of a kind that the sorting rule
 * names. A certificate that ran out explains a refused handshake; a full disk does not.
 */
@Component
class Explanations {
    private static final int FARTHEST = 4;

    /** @param why in words, for the log */
    record Explanation(WorkCase by, String why) {}

    /** A needed component, and in words how it is needed. */
    private record Needed(Estate.Component component, String how, int far) {}

    private final CaseStore store;
    private final AlertSources sources;
    private final SortingRules rules;
    private final Estate estate;

    Explanations(CaseStore store, AlertSources sources, SortingRules rules, Estate estate) {
        this.store = store;
        this.sources = sources;
        this.rules = rules;
        this.estate = estate;
    }

    /** The open case that explains failures of a rule on an interface: of the nearest component, the oldest. */
    Optional<Explanation> of(long rule, long component) {
        var kinds = rules.byId(rule).explainedBy();
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
                .map(one -> new Explanation(one, why(one, needed.get(one.component()), component)));
    }

    /** What is only foretold explains nothing yet. */
    private boolean isNow(WorkCase one) {
        return store.alerts(one.id()).stream().anyMatch(alert -> alert.up() && !sources.foretells(alert.source()));
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
