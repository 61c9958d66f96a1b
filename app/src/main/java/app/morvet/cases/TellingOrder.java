package app.morvet.cases;

import java.util.Comparator;
import java.util.List;

/**
 * The alerts of a case, the one that tells most first: up before cleared, over its limit right now before on its way
 * back, then the worst, then the oldest. The headline is the first one's, and so is the curve that stands on top.
 */
final class TellingOrder {
    private TellingOrder() {}

    static List<CaseAlert> of(List<CaseAlert> alerts, AlertSources sources) {
        return alerts.stream()
                .sorted(Comparator.comparing((CaseAlert alert) -> !alert.up())
                        .thenComparing(alert -> !sources.overItsLimit(alert))
                        .thenComparing(CaseAlert::level, Comparator.reverseOrder())
                        .thenComparing(CaseAlert::raisedAt))
                .toList();
    }
}
