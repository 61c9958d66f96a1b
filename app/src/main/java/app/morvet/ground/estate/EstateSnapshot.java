package app.morvet.ground.estate;

import app.morvet.ground.estate.Estate.Application;
import app.morvet.ground.estate.Estate.Component;
import app.morvet.ground.estate.Estate.Team;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * The estate as it was at an instant, laid out for what is asked of it all the time.
 *
 * @param components by name
 * @param interfaces those of them that are interfaces
 * @param standingOn what stands on each
 */
record EstateSnapshot(
        Instant madeAt,
        List<Team> teams,
        List<Application> applications,
        List<Component> components,
        List<Component> interfaces,
        Map<Long, List<Component>> standingOn,
        Map<Long, Component> componentsById,
        Map<String, Component> componentsByKey,
        Map<Long, Application> applicationsById) {
    static EstateSnapshot read(EstateStore store, Instant at) {
        var components = store.components().stream()
                .sorted(Comparator.comparing(Component::name, String.CASE_INSENSITIVE_ORDER)
                        .thenComparing(Component::key))
                .toList();
        var applications = store.applications();
        return new EstateSnapshot(
                at,
                store.teams(),
                applications,
                components,
                components.stream()
                        .filter(one -> one.kind().equals(Estate.INTERFACE))
                        .toList(),
                components.stream()
                        .filter(one -> one.standsOn() != null)
                        .collect(Collectors.groupingBy(one -> Objects.requireNonNull(one.standsOn()))),
                components.stream().collect(Collectors.toMap(Component::id, Function.identity())),
                components.stream().collect(Collectors.toMap(Component::key, Function.identity())),
                applications.stream().collect(Collectors.toMap(Application::id, Function.identity())));
    }
}
