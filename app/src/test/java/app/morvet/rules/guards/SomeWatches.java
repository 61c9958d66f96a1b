package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.rules.guards.Watches.Watching;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What guards watch, made by hand. */
final class SomeWatches {
    private static final Instant MADE_AT = Instant.parse("2027-03-18T03:20:00Z");

    private SomeWatches() {}

    static Series series(long id) {
        return new Series(id, id, new Measure(1, "heat", Sort.GAUGE, "", ""), Map.of(), null, false, null);
    }

    /** A guard over one series, of a component of its own. */
    static Watching over(long series) {
        return watching(7, series, series, null);
    }

    static Watching over(Series series) {
        return watching(7, series, series.component(), null);
    }

    static Watching watching(long guard, long series, long component, @Nullable Series ceiling) {
        return watching(guard, series(series), component, ceiling);
    }

    private static Watching watching(long guard, Series series, long component, @Nullable Series ceiling) {
        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.MEAN),
                Limits.above(80, 90),
                Terms.clearing(0.85, Duration.ZERO));
        var stored = new StoredGuard(guard, "Heat " + guard, true, Watch.of("heat"), rule, "", null, 1);
        var host = new Estate.Component(component, "host-" + component, "Host", "host", null, null, MADE_AT);
        var about = new Scope.Facts(host.key(), host.name(), host.kind(), "", 0, "", Set.of(), "", null);
        var subject = new Subject(series, host, null, about);
        var post = new Post(new GuardStore.Key(guard, series.id()));
        return new Watching(stored, subject, "c" + component, ceiling, Duration.ofMinutes(1), post);
    }

    /**
     * These, and so many more on other nodes.
     *
     * @param some all but combinations
     */
    static Watches of(int elsewhere, Watching... some) {
        return of(elsewhere, List.of(), some);
    }

    /** @param tied guards that a combination ties to each other */
    static Watches of(int elsewhere, List<Long> tied, Watching... some) {
        var all = new LinkedHashMap<GuardStore.Key, Watching>();
        var parts = new HashMap<GuardStore.Key, Integer>();
        for (var one : some) {
            all.put(one.key(), one);
            parts.put(one.key(), 0);
        }
        for (int i = 0; i < elsewhere; i++) parts.put(new GuardStore.Key(1, -1 - i), 1);
        return new Watches(
                all,
                parts,
                List.of(),
                Map.of(),
                Map.of(),
                Watches.tied(tied.isEmpty() ? List.of() : List.of(combination(tied)), all),
                Set.of());
    }

    private static StoredGuard combination(List<Long> members) {
        var both = new CombinationGuard(
                Expression.parse("a and b"), members, Severity.WARNING, false, Terms.clearing(0.85, Duration.ZERO));
        return new StoredGuard(99, "Both", true, Watch.of("heat"), both, "", null, 1);
    }
}
