package app.morvet.cases;

import app.morvet.guards.StandingGuard;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * The alerts of a case, the one that tells most first: up before cleared, over its limit right now before on its way
 * back, then the worst, then the oldest. The headline is the first one's, and so is the curve that stands on top.
 */
final class TellingOrder {
    private TellingOrder() {}

    /** @param guards those that raised the alerts, by id */
    static List<CaseAlert> of(List<CaseAlert> alerts, Map<Long, StandingGuard> guards) {
        return alerts.stream()
                .sorted(Comparator.comparing((CaseAlert alert) -> !alert.up())
                        .thenComparing(alert -> !overItsLimit(alert, guards))
                        .thenComparing(CaseAlert::level, Comparator.reverseOrder())
                        .thenComparing(CaseAlert::raisedAt))
                .toList();
    }

    private static boolean overItsLimit(CaseAlert alert, Map<Long, StandingGuard> guards) {
        var guard = guards.get(alert.guard());
        if (guard == null) return false;
        return guard.rule()
                .limits()
                .of(alert.level())
                .filter(line -> line.breachedBy(alert.value()))
                .isPresent();
    }
}
