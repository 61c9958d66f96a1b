package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Holding;
import app.morvet.alerting.alerts.Origins;
import app.morvet.core.alert.Trouble;
import app.morvet.core.cases.Causes;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.EstateLinks;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Finds open trouble that explains an alert, by {@link Causes}: what its component needs or stands on and is stopped by, whatever its own
 * rule names besides, and what somebody once said is its cause.
 */
@Component
class Explanations {
    /** @param why in words, for the log */
    record Explanation(long by, String why) {}

    private final CaseStore store;
    private final KnownCauses known;
    private final Alerts alerts;
    private final Origins origins;
    private final Estate estate;
    private final EstateLinks links;
    private final List<Holding> holding;

    Explanations(
            CaseStore store,
            KnownCauses known,
            Alerts alerts,
            Origins origins,
            Estate estate,
            EstateLinks links,
            List<Holding> holding) {
        this.store = store;
        this.known = known;
        this.alerts = alerts;
        this.origins = origins;
        this.estate = estate;
        this.links = links;
        this.holding = holding;
    }

    /**
     * The open case that explains an alert: of what is nearest, the one that was heard first; else what came of the same work; else where
     * the same is in trouble already, though what explained that is over.
     */
    Optional<Explanation> of(Alert alert) {
        var kind = origins.of(alert);
        return of(kind.trouble(alert), kind.explainedBy(alert), alert.about().component())
                .or(() -> byTheSameWork(alert))
                .or(() -> withTheSame(alert));
    }

    private Optional<Explanation> withTheSame(Alert alert) {
        var same = alerts.upOn(Set.of(alert.about().component())).stream()
                .filter(one -> one.id() != alert.id() && one.about().equals(alert.about()))
                .toList();
        var cases = store.openCasesOf(same.stream().map(Alert::id).toList());
        return same.stream()
                .filter(one -> cases.containsKey(one.id()))
                .findFirst()
                .map(one -> new Explanation(
                        Objects.requireNonNull(cases.get(one.id())),
                        "%s is in this case already: %s"
                                .formatted(
                                        estate.component(one.about().component())
                                                .name(),
                                        one.words())));
    }

    /** The first case that began with what came of the same work, so that no other is drawn in by what joined it. */
    private Optional<Explanation> byTheSameWork(Alert alert) {
        if (!canComeOfWork(alert)) return Optional.empty();
        return holding.stream()
                .flatMap(one -> one.cameWith(alert).stream())
                .findFirst()
                .flatMap(work -> {
                    var others = alerts.byIds(work.alerts()).stream()
                            .filter(this::canComeOfWork)
                            .toList();
                    var causes = others.stream().map(one -> one.about().cause()).collect(Collectors.toSet());
                    return store.openCasesOf(others.stream().map(Alert::id).toList()).values().stream()
                            .distinct()
                            .flatMap(id -> store.byId(id).stream())
                            .filter(one -> causes.contains(one.component())
                                    && !one.openedAt().isBefore(work.since()))
                            .min(Comparator.comparing(WorkCase::openedAt).thenComparing(WorkCase::id))
                            .map(one -> new Explanation(one.id(), work.why()));
                });
    }

    private boolean canComeOfWork(Alert alert) {
        return Causes.canBeExplained(
                origins.of(alert).trouble(alert),
                estate.component(alert.about().component()).kind());
    }

    /** @param named kinds of components whose trouble explains it, whatever sort that is of */
    Optional<Explanation> of(Trouble trouble, Set<String> named, long component) {
        var said = known.causesOf(component);
        var needed = Causes.needed(component, links);
        var all = new HashSet<>(needed.keySet());
        all.addAll(said.keySet());
        all.remove(component);
        if (all.isEmpty()) return Optional.empty();
        var up = alerts.upOn(all);
        var cases = store.openCasesOf(up.stream().map(Alert::id).toList());
        var present = up.stream()
                .filter(one -> cases.containsKey(one.id()))
                .map(this::present)
                .toList();
        var kind = estate.component(component).kind();
        return present.stream()
                .filter(one -> said.containsKey(one.component()) && one.trouble() != Trouble.AHEAD)
                .findFirst()
                .map(one -> new Explanation(id(cases, one), asSaid(component, one, said, up)))
                .or(() -> Causes.of(trouble, kind, needed, present, named)
                        .map(one -> new Explanation(id(cases, one), why(component, one, needed, up))));
    }

    private static long id(Map<Long, Long> cases, Causes.Present one) {
        return Objects.requireNonNull(cases.get(one.id()));
    }

    private Causes.Present present(Alert alert) {
        long on = alert.about().component();
        return new Causes.Present(
                alert.id(), on, estate.component(on).kind(), origins.of(alert).trouble(alert), alert.level());
    }

    /** What needs a component or stands on it, through others too, or was once said to be its doing; most things have nothing of the sort. */
    Set<Long> dependents(long component) {
        var found = new LinkedHashSet<Long>();
        var layer = List.of(component);
        for (int far = 0; far < Causes.FARTHEST && !layer.isEmpty(); far++) {
            layer = layer.stream()
                    .flatMap(id -> links.dependents(id).stream())
                    .filter(found::add)
                    .toList();
        }
        found.addAll(known.effectsOf(component));
        found.remove(component);
        return found;
    }

    private String asSaid(long component, Causes.Present one, Map<Long, String> said, List<Alert> up) {
        return "%s is often in trouble because of the %s %s, as %s said: %s"
                .formatted(
                        estate.component(component).name(),
                        one.kind(),
                        estate.component(one.component()).name(),
                        said.get(one.component()),
                        words(one, up));
    }

    private String why(long component, Causes.Present one, Map<Long, Causes.Needed> needed, List<Alert> up) {
        var way = Objects.requireNonNull(needed.get(one.component()));
        return "%s %s the %s %s: %s"
                .formatted(
                        estate.component(component).name(),
                        how(way),
                        one.kind(),
                        estate.component(one.component()).name(),
                        words(one, up));
    }

    private String how(Causes.Needed way) {
        var does = way.under() ? "stands on" : "needs";
        if (way.far() == 1) return does;
        return does + ", through " + estate.component(way.through()).name() + ",";
    }

    private static String words(Causes.Present one, List<Alert> up) {
        return up.stream()
                .filter(alert -> alert.id() == one.id())
                .findFirst()
                .orElseThrow()
                .words();
    }
}
