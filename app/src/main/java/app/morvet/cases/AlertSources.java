package app.morvet.cases;

import app.morvet.alerts.AlertSource;
import app.morvet.alerts.AlertSource.OfGuard;
import app.morvet.alerts.AlertSource.OfRule;
import app.morvet.alerts.AlertSource.OfRunGuard;
import app.morvet.batch.JobBook;
import app.morvet.batch.RunGuards;
import app.morvet.batch.StandingJob;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.cases.Comeback;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.TrendGuard;
import app.morvet.estate.Estate;
import app.morvet.guards.Guards;
import app.morvet.readings.Measure;
import app.morvet.sorting.SortingRules;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What cases ask of whatever raised an alert, be it a guard, a guard over runs or a sorting rule. */
@Component
class AlertSources {
    private final Guards guards;
    private final SortingRules rules;
    private final RunGuards runGuards;
    private final JobBook jobs;

    AlertSources(Guards guards, SortingRules rules, RunGuards runGuards, JobBook jobs) {
        this.guards = guards;
        this.rules = rules;
        this.runGuards = runGuards;
        this.jobs = jobs;
    }

    String name(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).name();
            case OfRunGuard run -> runGuards.byId(run.guard()).name();
            case OfRule rule -> rules.byId(rule.rule()).name();
        };
    }

    String sentence(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.sentence(guards.byId(guard));
            case OfRunGuard run ->
                runGuards.sentence(runGuards.byId(run.guard()).rule());
            case OfRule rule -> rules.sentence(rules.byId(rule.rule()));
        };
    }

    String fixNote(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).fixNote();
            case OfRunGuard run -> fixNote(run);
            case OfRule rule -> rules.byId(rule.rule()).fixNote();
        };
    }

    /** What is said at the job itself comes before what is said at the guard. */
    private String fixNote(OfRunGuard run) {
        var own = jobs.byComponent(run.cause()).map(StandingJob::fixNote).orElse("");
        return own.isBlank() ? runGuards.byId(run.guard()).fixNote() : own;
    }

    private static String value(RunTrouble trouble, double value) {
        if (Double.isNaN(value)) return "";
        return switch (trouble) {
            case FAILED -> "exit code %.0f".formatted(value);
            case DEADLINE_AT_RISK -> "%.0f %% to make it".formatted(value);
            case DID_NOT_START, RUNNING_LONG, OUT_OF_TIME -> "%,.0f min over".formatted(value);
            case SUSPICIOUS_SUCCESS, NOT_EXPECTED -> "%,.0f".formatted(value);
        };
    }

    /** Where it can be read and changed. */
    String link(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> "/guards/" + guard;
            case OfRunGuard run -> "/batch/guards/" + run.guard();
            case OfRule rule -> "/messages/rules/" + rule.rule();
        };
    }

    String kind(AlertSource source) {
        return source instanceof OfRule ? "the sorting rule" : "the guard";
    }

    String value(AlertSource source, double value) {
        return switch (source) {
            case OfGuard(long id) -> {
                var guard = guards.byId(id);
                yield GuardSentence.value(guard.rule(), value, guards.unit(guard));
            }
            case OfRunGuard run -> value(runGuards.byId(run.guard()).rule().trouble(), value);
            case OfRule rule -> "%,d".formatted((long) value);
        };
    }

    String limits(AlertSource source) {
        return switch (source) {
            case OfGuard(long id) -> {
                var guard = guards.byId(id);
                yield GuardSentence.limits(guard.rule(), guards.unit(guard));
            }
            case OfRunGuard run -> "";
            case OfRule rule -> "";
        };
    }

    Optional<Estate.Team> owner(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.owner(guard);
            case OfRunGuard run -> runGuards.owner(run.guard());
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
            case OfRunGuard run -> true;
            case OfRule rule -> true;
        };
    }

    /** The worse of two values; NaN is none. */
    double worse(AlertSource source, double one, double other) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).rule().limits().worse(one, other);
            case OfRunGuard run -> runGuards.byId(run.guard()).rule().trouble().worse(one, other);
            case OfRule rule -> Math.max(one, other);
        };
    }

    /** Where the trouble that it tells of may have begun. */
    Instant windowStart(AlertSource source, Instant at) {
        return source instanceof OfGuard(long guard) ? guards.windowStart(guard, at) : at;
    }

    /** Whether there is a curve of it; what is joined of others, and runs, have none. */
    boolean drawn(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> !(guards.byId(guard).rule() instanceof CombinationGuard);
            case OfRunGuard run -> false;
            case OfRule rule -> true;
        };
    }

    /** Whether it speaks of failed messages. */
    boolean ofMessages(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).watch().measure().equals(Measure.FAILED_MESSAGES);
            case OfRunGuard run -> false;
            case OfRule rule -> true;
        };
    }

    /** Whether it tells of what will come, and not of what is. */
    boolean foretells(AlertSource source) {
        return switch (source) {
            case OfGuard(long guard) -> guards.byId(guard).rule() instanceof TrendGuard;
            case OfRunGuard run -> runGuards.byId(run.guard()).rule().trouble() == RunTrouble.DEADLINE_AT_RISK;
            case OfRule rule -> false;
        };
    }

    /** Whether one that was still up when its case was settled has grown enough since to call again. */
    boolean grewAgain(AlertSource source, double atSettling, double value) {
        return switch (source) {
            case OfGuard(long guard) -> Comeback.grewAgain(guards.byId(guard).rule(), atSettling, value);
            case OfRunGuard run -> false;
            case OfRule rule -> value > atSettling;
        };
    }
}
