package app.morvet.cases;

import app.morvet.core.guard.LimitGuard;
import app.morvet.guards.Guards;
import java.util.Comparator;
import java.util.List;
import org.springframework.stereotype.Component;

/**
 * The alerts of a case, the one that tells most first: up before cleared, over its limit right now before on its way
 * back, then the worst, then the oldest. The headline is the first one's, and so is the curve that stands on top.
 */
@Component
class TellingOrder {
    private final Guards guards;

    TellingOrder(Guards guards) {
        this.guards = guards;
    }

    List<CaseAlert> of(List<CaseAlert> alerts) {
        return alerts.stream()
                .sorted(Comparator.comparing((CaseAlert alert) -> !alert.up())
                        .thenComparing(alert -> !overItsLimit(alert))
                        .thenComparing(CaseAlert::level, Comparator.reverseOrder())
                        .thenComparing(CaseAlert::raisedAt))
                .toList();
    }

    private boolean overItsLimit(CaseAlert alert) {
        return switch (guards.byId(alert.guard()).rule()) {
            case LimitGuard limit ->
                limit.limits()
                        .of(alert.level())
                        .filter(line -> alert.value() > line)
                        .isPresent();
        };
    }
}
