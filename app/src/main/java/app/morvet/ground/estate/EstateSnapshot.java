package app.morvet.ground.estate;

import app.morvet.core.estate.Scope;
import app.morvet.ground.estate.Estate.Application;
import app.morvet.ground.estate.Estate.Component;
import app.morvet.ground.estate.Estate.Team;
import app.morvet.ground.estate.Groups.Group;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.function.LongFunction;
import java.util.stream.Collectors;

/**
 * The estate as it was at an instant, laid out for what is asked of it all the time.
 *
 * @param components by name
 * @param interfaces those of them that are interfaces
 * @param standingOn what stands on each
 * @param needs      what each needs to work
 * @param needing    what needs each
 * @param groups     by name
 * @param counts     how many components each application has; by 0, how many have none
 * @param facts      what scopes ask of each component, by its id
 */
record EstateSnapshot(
        Instant madeAt,
        List<Team> teams,
        Map<Long, Team> teamsById,
        List<Application> applications,
        List<Component> components,
        List<Component> interfaces,
        Map<Long, List<Component>> standingOn,
        Map<Long, Component> componentsById,
        Map<String, Component> componentsByKey,
        Map<Long, Application> applicationsById,
        Map<Long, List<Long>> needs,
        Map<Long, List<Long>> needing,
        List<Group> groups,
        Map<Long, Long> counts,
        Map<Long, Scope.Facts> facts) {
    static EstateSnapshot read(EstateStore store, Instant at) {
        var components = store.components().stream()
                .sorted(Comparator.comparing(Component::name, String.CASE_INSENSITIVE_ORDER)
                        .thenComparing(Component::key))
                .toList();
        var teams = store.teams();
        var applications = store.applications();
        var byId = components.stream().collect(Collectors.toMap(Component::id, Function.identity()));
        var applicationsById = applications.stream().collect(Collectors.toMap(Application::id, Function.identity()));
        var groups = store.groups();
        var needs = store.needs();
        return new EstateSnapshot(
                at,
                teams,
                teams.stream().collect(Collectors.toMap(Team::id, Function.identity())),
                applications,
                components,
                components.stream()
                        .filter(one -> one.kind().equals(Estate.INTERFACE))
                        .toList(),
                components.stream()
                        .filter(one -> one.standsOn() != null)
                        .collect(Collectors.groupingBy(one -> Objects.requireNonNull(one.standsOn()))),
                byId,
                components.stream().collect(Collectors.toMap(Component::key, Function.identity())),
                applicationsById,
                needs.stream()
                        .collect(Collectors.groupingBy(
                                EstateStore.Need::component,
                                Collectors.mapping(EstateStore.Need::needs, Collectors.toList()))),
                needs.stream()
                        .collect(Collectors.groupingBy(
                                EstateStore.Need::needs,
                                Collectors.mapping(EstateStore.Need::component, Collectors.toList()))),
                groups,
                components.stream()
                        .collect(Collectors.groupingBy(
                                one -> Objects.requireNonNullElse(one.applicationId(), 0L), Collectors.counting())),
                facts(byId, applicationsById, groups));
    }

    private static Map<Long, Scope.Facts> facts(
            Map<Long, Component> components, Map<Long, Application> applications, List<Group> groups) {
        // What a rule of a group asks is not who is in a group.
        var bare = new Facts(components, applications, id -> Set.of());
        var groupsOf = new HashMap<Long, Set<String>>();
        for (var group : groups)
            for (var id : components.keySet())
                if (group.has(id, bare.of(id)))
                    groupsOf.computeIfAbsent(id, any -> new HashSet<>()).add(group.name());
        if (groupsOf.isEmpty()) return bare.all();
        return new Facts(components, applications, id -> groupsOf.getOrDefault(id, Set.of())).all();
    }

    /** Makes the facts of each component once, from what it stands on upwards. */
    private static final class Facts {
        private final Map<Long, Component> components;
        private final Map<Long, Application> applications;
        private final LongFunction<Set<String>> groups;
        private final Map<Long, Scope.Facts> made = new HashMap<>();

        Facts(Map<Long, Component> components, Map<Long, Application> applications, LongFunction<Set<String>> groups) {
            this.components = components;
            this.applications = applications;
            this.groups = groups;
        }

        Map<Long, Scope.Facts> all() {
            components.keySet().forEach(this::of);
            return Map.copyOf(made);
        }

        Scope.Facts of(long id) {
            return of(id, new HashSet<>());
        }

        /** @param above those that stand on it, should they go round */
        private Scope.Facts of(long id, Set<Long> above) {
            var known = made.get(id);
            if (known != null) return known;
            var one = components.get(id);
            var on = one.standsOn();
            above.add(id);
            var below = on == null || above.contains(on) || !components.containsKey(on) ? null : of(on, above);
            var applicationId = one.applicationId();
            var application = applicationId == null ? null : applications.get(applicationId);
            var facts = new Scope.Facts(
                    one.key(),
                    one.name(),
                    one.kind(),
                    application == null ? "" : application.key(),
                    application == null ? 0 : application.tier().number(),
                    application == null ? "" : application.environment(),
                    groups.apply(id),
                    "",
                    below);
            made.put(id, facts);
            return facts;
        }
    }
}
