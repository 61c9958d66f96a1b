package app.morvet.alerting.windows;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Holding;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.windows.Cover;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.vendors.Vendors;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * What is raised in a window is held. Event time leads, as in guards: what began before the window and was noticed in it is not
 * held, and what began in it and is noticed after its end is held until the next round looks at it.
 */
@Component
class HeldAlerts implements Holding {
    /** So soon after a window is over trouble of what it covered comes of the work. */
    static final Duration COMES_OF_IT = Duration.ofMinutes(30);

    private static final int MOST = 1000;

    private final Windows windows;
    private final HeldStore store;
    private final Alerts alerts;
    private final Estate estate;
    private final Times times;

    HeldAlerts(Windows windows, HeldStore store, Alerts alerts, Estate estate, Times times) {
        this.windows = windows;
        this.store = store;
        this.alerts = alerts;
        this.estate = estate;
        this.times = times;
    }

    /** Trouble is planned where it shows, where it comes from, or where a vendor works on what it needs. */
    Optional<Cover.On> covering(About about, Instant at) {
        if (windows.cover(at).on().isEmpty()) return Optional.empty();
        return windows.covering(about.component(), at)
                .or(() -> about.cause() == about.component() ? Optional.empty() : windows.covering(about.cause(), at))
                .or(() -> estate.needsOf(about.component()).stream()
                        .filter(one -> one.kind().equals(Vendors.KIND))
                        .flatMap(one -> windows.covering(one.id(), at).stream())
                        .findFirst());
    }

    @Override
    public boolean covers(Move raised) {
        return covering(raised.about(), raised.transition().at()).isPresent();
    }

    @Override
    public void holds(Alert raised) {
        covering(raised.about(), raised.raisedAt()).ifPresent(on -> hold(raised.id(), on));
    }

    void hold(long alert, Cover.On on) {
        store.hold(alert, on.id(), on.occurrence().meant(), on.to(), on.window().pauses());
    }

    @Override
    public Optional<String> letsGo(Alert held, Move move) {
        var row = store.of(List.of(held.id())).get(held.id());
        if (row == null) return Optional.empty();
        var rests = row.restsAt();
        if (rests != null) {
            if (held.value() < rests) store.rests(held.id(), held.value());
            if (held.value() <= rests) return Optional.empty();
            store.released(held.id(), move.transition().at());
            return Optional.of(began(held, row) + " It stood on what had happened inside, and has grown since.");
        }
        // One alert over several components is held only as long as what shows it is.
        var at = move.transition().at();
        if (move.about().equals(held.about())
                || at.isAfter(row.until())
                || covering(move.about(), at).isPresent()) return Optional.empty();
        store.released(held.id(), at);
        return Optional.of("%s It shows on %s now, which no window covers."
                .formatted(
                        began(held, row),
                        estate.component(move.about().component()).name()));
    }

    /**
     * What one time of a window let go when it was over, and what was raised soon after its end on what it had covered: whoever worked there
     * worked on one thing.
     */
    @Override
    public Optional<Together> cameWith(Alert raised) {
        var row = store.of(List.of(raised.id())).get(raised.id());
        if (row != null)
            return windows.find(row.window())
                    .filter(one -> one.window().scope().isOverSomething())
                    .map(one -> together(raised, one.window(), row.window(), row.meant(), row.until()));
        var component = estate.component(raised.about().component());
        return windows.cover(raised.raisedAt())
                .endedOver(windows.factsOf(component), raised.raisedAt(), COMES_OF_IT)
                .map(on ->
                        together(raised, on.window(), on.id(), on.occurrence().meant(), on.to()));
    }

    private Together together(Alert raised, MaintenanceWindow window, long id, LocalDateTime meant, Instant ended) {
        var all = new HashSet<Long>();
        store.in(id, meant, MOST).stream().filter(one -> one.released() != null).forEach(one -> all.add(one.alert()));
        alerts.raisedIn(ended, ended.plus(COMES_OF_IT), MOST).stream()
                .filter(one -> !one.held() && one.up())
                .filter(one -> window.scope()
                        .takes(windows.factsOf(estate.component(one.about().component()))))
                .forEach(one -> all.add(one.id()));
        all.remove(raised.id());
        var began = meant.atZone(window.plan().zone()).toInstant();
        return new Together(
                all,
                began.isBefore(ended) ? began : ended,
                "the window \"%s\" was over both until %s".formatted(window.name(), times.of(ended)));
    }

    /** {@code It began in the window "Gate firmware"; without that it would have been a critical case.} */
    String began(Alert held, HeldStore.Row row) {
        var name = windows.find(row.window()).map(one -> one.window().name()).orElse("that is gone");
        return "It began in the window \"%s\"; without that it would have been a %s case."
                .formatted(name, held.level().word());
    }
}
