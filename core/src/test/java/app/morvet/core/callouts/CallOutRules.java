package app.morvet.core.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Rules and what they are asked about, as tests say them. */
final class CallOutRules {
    static final Instant NIGHT = Instant.parse("2027-03-18T01:00:00Z");
    static final Scope.Facts GATE = facts("boarding-gate", "freight", 1);
    static final Whom.Names NAMES = new Whom.Names() {
        @Override
        public String team(long id) {
            return id == 3 ? "Freight Systems" : "a team that is gone";
        }

        @Override
        public String person(long id) {
            return id == 7 ? "Otso Haapala" : "somebody";
        }

        @Override
        public String role(String role) {
            return role.toLowerCase(java.util.Locale.ROOT);
        }

        @Override
        public String connection(long id) {
            return "the room of the night";
        }
    };

    private CallOutRules() {}

    static Instant at(int minute) {
        return NIGHT.plus(Duration.ofMinutes(minute));
    }

    static Scope.Facts facts(String name, String application, int tier) {
        return new Scope.Facts(name, name, "service", application, tier, "production", Set.of(), "", null);
    }

    static Step line(int line, int wait) {
        return new Step(Duration.ofMinutes(wait), new Whom.OnDuty(Whom.OWNER, line), List.of(Way.TEXT, Way.MAIL));
    }

    static Step team(int wait) {
        return new Step(Duration.ofMinutes(wait), new Whom.Team(Whom.OWNER), List.of(Way.MAIL));
    }

    static CallOutRule opened(Step... steps) {
        return opened(Severity.CRITICAL, Scope.ALL, false, steps);
    }

    static CallOutRule opened(Severity from, Scope scope, boolean goesOn, Step... steps) {
        return new CallOutRule("Night", Happening.OPENED, from, scope, null, List.of(steps), null, true, goesOn);
    }

    static CallOutRule again(CallOutRule rule, int minutes) {
        return new CallOutRule(
                rule.name(),
                rule.when(),
                rule.from(),
                rule.scope(),
                rule.hours(),
                rule.steps(),
                Duration.ofMinutes(minutes),
                rule.over(),
                rule.goesOn());
    }

    static CallOutRule when(Happening when, CallOutRule rule) {
        return new CallOutRule(
                rule.name(),
                when,
                rule.from(),
                rule.scope(),
                rule.hours(),
                rule.steps(),
                rule.again(),
                rule.over(),
                false);
    }

    static CallOutRule.Occasion occasion(Happening what, Severity severity, @Nullable Severity before) {
        return new CallOutRule.Occasion(what, severity, before, List.of(GATE), NIGHT);
    }
}
