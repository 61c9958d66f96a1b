package app.morvet.rules.guards;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Watch;
import app.morvet.ground.nodes.Leases;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * All that is watched on this node, and how it hangs together.
 *
 * @param parts    into which part each of it falls; of what other nodes watch too
 * @param groups   what has one alert together
 * @param combinations those of them that are combinations
 * @param tied     by component, the members of combinations, which are judged together
 * @param silenced guards that keep silent, since a combination speaks for them
 */
record Watches(
        Map<GuardStore.Key, Watching> all,
        Map<GuardStore.Key, Integer> parts,
        List<Watching> combinations,
        Map<GroupKey, List<Watching>> groups,
        Map<Long, Map<Long, List<GuardStore.Key>>> byGuardAndComponent,
        Map<Long, List<Watching>> tied,
        Set<Long> silenced) {
    static final Watches NONE = new Watches(Map.of(), Map.of(), List.of(), Map.of(), Map.of(), Map.of(), Set.of());

    /**
     * One guard over one series, or a combination over one component.
     *
     * @param ceiling the series that a limit is a share of, or null
     */
    record Watching(
            StoredGuard guard, Subject subject, String group, @Nullable Series ceiling, Duration cadence, Post post) {
        /** Of a guard that stands over it no longer. */
        static Watching left(StoredGuard guard, Subject subject) {
            return new Watching(
                    guard,
                    subject,
                    subject.group(guard.rule().terms().grouping()),
                    null,
                    Duration.ZERO,
                    new Post(new GuardStore.Key(guard.id(), subject.series().id())));
        }

        GuardStore.Key key() {
            return post.key;
        }

        GroupKey groupKey() {
            return new GroupKey(guard.id(), group);
        }
    }

    record GroupKey(long guard, String group) {}

    /** What has one alert together. */
    List<Watching> together(GroupKey group) {
        return groups.getOrDefault(group, List.of());
    }

    /** The members of combinations that are judged together with this one; none where it is no member. */
    List<Watching> tiedWith(Watching watching) {
        if (tied.isEmpty()) return List.of();
        var some = tied.getOrDefault(watching.subject().component().id(), List.of());
        return some.contains(watching) ? some : List.of();
    }

    /**
     * @param matched which series fit a watch
     * @param held    the parts that this node holds
     * @param posts   gives what is remembered of one, which may be nothing yet
     */
    static Watches of(
            List<StoredGuard> standing,
            Matching matching,
            Function<Watch, List<Subject>> matched,
            Leases.Held held,
            Function<GuardStore.Key, Post> posts) {
        var dealing = new Dealing(standing);
        var parts = new HashMap<GuardStore.Key, Integer>();
        var all = new LinkedHashMap<GuardStore.Key, Watching>();
        var groups = new HashMap<GroupKey, List<Watching>>();
        var byGuard = new HashMap<Long, Map<Long, List<GuardStore.Key>>>();
        var silenced = new HashSet<Long>();
        var byId = new HashMap<Long, StoredGuard>();
        standing.forEach(guard -> byId.put(guard.id(), guard));
        for (var guard : standing) {
            if (!guard.active()) continue;
            if (guard.rule() instanceof CombinationGuard it && it.silent()) silenced.addAll(it.members());
            for (var subject : Matching.of(guard.rule(), guard.watch(), byId::get, matched)) {
                var group = subject.group(guard.rule().terms().grouping());
                int part = held.partOf(dealing.of(guard, subject.component().id(), group));
                var key = new GuardStore.Key(guard.id(), subject.series().id());
                parts.put(key, part);
                if (!held.has(part)) continue;
                var post = posts.apply(key);
                post.part = part;
                var watching = new Watching(
                        guard,
                        subject,
                        group,
                        ceiling(guard, subject, matching),
                        matching.cadence(subject.series()),
                        post);
                all.put(key, watching);
                groups.computeIfAbsent(watching.groupKey(), none -> new ArrayList<>())
                        .add(watching);
                byGuard.computeIfAbsent(guard.id(), none -> new HashMap<>())
                        .computeIfAbsent(subject.component().id(), none -> new ArrayList<>())
                        .add(key);
            }
        }
        var combinations = all.values().stream()
                .filter(one -> one.guard().rule() instanceof CombinationGuard)
                .toList();
        return new Watches(all, parts, combinations, groups, byGuard, tied(standing, all), silenced);
    }

    static Map<Long, List<Watching>> tied(List<StoredGuard> standing, Map<GuardStore.Key, Watching> all) {
        var members = new HashSet<Long>();
        for (var guard : standing)
            if (guard.active() && guard.rule() instanceof CombinationGuard it) members.addAll(it.members());
        var tied = new HashMap<Long, List<Watching>>();
        for (var watching : all.values())
            if (members.contains(watching.guard().id()))
                tied.computeIfAbsent(watching.subject().component().id(), none -> new ArrayList<>())
                        .add(watching);
        return tied;
    }

    private static @Nullable Series ceiling(StoredGuard guard, Subject subject, Matching matching) {
        return guard.rule() instanceof LimitGuard limit
                        && limit.amount().ceiling() instanceof Amount.Ceiling.Measured(var measure)
                ? matching.ceiling(subject.series(), measure).orElse(null)
                : null;
    }
}
