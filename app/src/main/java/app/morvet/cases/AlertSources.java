package app.morvet.cases;

import app.morvet.alerts.AlertSource;
import app.morvet.alerts.AlertSource.OfGuard;
import app.morvet.alerts.AlertSource.OfRule;
import app.morvet.core.cases.Comeback;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.TrendGuard;
import app.morvet.estate.Estate;
import app.morvet.guards.Guards;
import app.morvet.readings.Measure;
import app.morvet.sorting.SortingRules;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What cases ask of whatever raised an alert, be it a guard or a sorting rule. */
@Component
class AlertSources {
    private final Guards guards;
    private final SortingRules rules;

    AlertSources(Guards guards, SortingRules rules) {
        this.guards = guards;
        this.rules = rules;
    }

    String name(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).name();
            case OfRule rule -> rules.byId(rule.rule()).name();
        };
    }

    String sentence(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.sentence(guards.byId(guard));
            case OfRule rule -> rules.sentence(rules.byId(rule.rule()));
        };
    }

    String fixNote(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).fixNote();
            case OfRule rule -> rules.byId(rule.rule()).fixNote();
        };
    }

    /** Where it can be read and changed. */
    String link(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> "/guards/" + guard;
            case OfRule rule -> "/messages/rules/" + rule.rule();
        };
    }

    String kind(AlertSource source) {
        return source instanceof OfGuard ? "the guard" : "the sorting rule";
    }

    String value(AlertSource source, double value) {
        return switch (source) {
            case OfGuard(long id) -> {
                var guard = guards.byId(id);
                yield GuardSentence.value(guard.rule(), value, guards.unit(guard));
            }
            case OfRule rule -> "%,d".formatted((long) value);
        };
    }

    String limits(AlertSource source) {
        return switch (source) {
            case OfGuard(long id) -> {
                var guard = guards.byId(id);
                yield GuardSentence.limits(guard.rule(), guards.unit(guard));
            }
            case OfRule rule -> "";
        };
    }

    Optional<Estate.Team> owner(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.owner(guard);
            case OfRule rule -> rules.owner(rules.byId(rule.rule()));
        };
    }

    /** Whether it would be raised now, were it not up. */
    boolean overItsLimit(CaseAlert alert) {
        return switch (alert.source()) {
            case OfGuard(long guard) ->
                guards.byId(guard)
                        .rule()
                        .limits()
                        .of(alert.level())
                        .filter(line -> line.breachedBy(alert.value()))
                        .isPresent();
            case OfRule rule -> true;
        };
    }

    /** Where the trouble that it tells of may have begun. */
    Instant windowStart(AlertSource source, Instant at) {
        return source instanceof OfGuard(long guard) ? guards.windowStart(guard, at) : at;
    }

    /** Whether it speaks of failed messages. */
    boolean ofMessages(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).watch().measure().equals(Measure.FAILED_MESSAGES);
            case OfRule rule -> true;
        };
    }

    /** Whether it tells of what will come, and not of what is. */
    boolean foretells(AlertSource source) {
        return source instanceof OfGuard(long guard) && guards.byId(guard).rule() instanceof TrendGuard;
    }

    /** Whether one that was still up when its case was settled has grown enough since to call again. */
    boolean grewAgain(AlertSource source, double atSettling, double value) {
        return switch (source) {
            case OfGuard(long guard) -> Comeback.grewAgain(guards.byId(guard).rule(), atSettling, value);
            case OfRule rule -> value > atSettling;
        };
    }
}
