package app.morvet.alerting.alerts;

import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Raised;
import app.morvet.core.alert.Severity;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Alerts, looked up. */
@Service
public class Alerts {
    private final AlertStore store;
    private final Origins origins;

    Alerts(AlertStore store, Origins origins) {
        this.store = store;
        this.origins = origins;
    }

    /** A time in which something about a component alerted; {@code to} is null while it does. */
    public record Stretch(long component, Severity level, Instant from, @Nullable Instant to) {}

    /** What alerted on some components in a span, in order of time. */
    public List<Stretch> stretches(Collection<Long> components, Instant from, Instant to) {
        return store.stretches(components, from, to);
    }

    /** What alerted anywhere in a span and was not held. */
    public List<Stretch> stretches(Instant from, Instant to) {
        return store.stretches(from, to);
    }

    /** Those that are up and not held, the one raised first first. */
    public List<Alert> up() {
        return store.up();
    }

    /** Those of some origins of a kind that are up and not held. */
    public List<Alert> upOf(String kind, Collection<Long> origins) {
        return origins.isEmpty() ? List.of() : store.upOf(kind, origins);
    }

    /** Those on some components that are up and not held, the one raised first first. */
    public List<Alert> upOn(Collection<Long> components) {
        return components.isEmpty() ? List.of() : store.upOn(components);
    }

    /**
     * What is up on a component and not held.
     *
     * @param worst the worst level of them
     * @param since when the first of them was raised
     */
    public record Up(int count, Severity worst, Instant since) {}

    /** By component, of those of some on which something is up. */
    public Map<Long, Up> sumsOn(Collection<Long> components) {
        return components.isEmpty() ? Map.of() : store.sumsOn(components);
    }

    /** When the same was raised in a half-open span, in order of time: by the origin of an alert on its component. */
    public List<Instant> raisedTimes(Alert like, Instant from, Instant to) {
        return from.isBefore(to) ? store.raisedTimes(like, from, to) : List.of();
    }

    /** The ids of what some origins raised since an instant, anywhere, the latest first; no more than so many of each. */
    public List<Long> idsOf(Collection<Origin> origins, Instant since, int most) {
        return origins.stream()
                .flatMap(one -> store.idsOf(one, since, most).stream())
                .toList();
    }

    /** The same of what they raised on one component, however much they raised elsewhere. */
    public List<Long> idsOn(long component, Collection<Origin> origins, Instant since, int most) {
        return origins.stream()
                .flatMap(one -> store.idsOn(component, one, since, most).stream())
                .toList();
    }

    /** Those of all origins of a kind that are up. */
    public List<Raised> raised(String kind) {
        return store.raised(kind);
    }

    /** Those that were raised in a half-open span, in order of time; not those that are more than so many. */
    public List<Alert> raisedIn(Instant from, Instant to, int most) {
        return store.raisedIn(from, to, most);
    }

    /** Those that are held and up. */
    public List<Alert> heldUp() {
        return store.heldUp();
    }

    /** Some by their ids, the one raised last first. */
    public List<Alert> byIds(Collection<Long> ids) {
        return ids.isEmpty() ? List.of() : store.byIds(ids);
    }

    public Optional<Alert> byId(long id) {
        return store.byIds(List.of(id)).stream().findFirst();
    }

    /**
     * Some by their ids, the one that tells most first: up before over, over its limit right now before on its way back, then
     * the worst, then the oldest.
     */
    public List<Alert> inTellingOrder(Collection<Long> ids) {
        record Placed(Alert alert, boolean overItsLimit) {}
        return byIds(ids).stream()
                .map(alert -> new Placed(alert, origins.of(alert).overItsLimit(alert)))
                .sorted(Comparator.comparing((Placed one) -> !one.alert().up())
                        .thenComparing(one -> !one.overItsLimit())
                        .thenComparing(one -> one.alert().level(), Comparator.reverseOrder())
                        .thenComparing(one -> one.alert().raisedAt()))
                .map(Placed::alert)
                .toList();
    }
}
