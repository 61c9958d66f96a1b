package app.morvet.alerts;

import app.morvet.core.alert.Transition;
import app.morvet.guards.GuardsMoved;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Keeps the alerts as the guards' transitions make them, and passes each change on in the same transaction. */
@Component
class AlertBook {
    private final AlertStore store;
    private final ApplicationEventPublisher events;

    AlertBook(AlertStore store, ApplicationEventPublisher events) {
        this.store = store;
        this.events = events;
    }

    @EventListener
    void on(GuardsMoved round) {
        for (var moved : round.moved()) {
            var change = moved.transition();
            long alert = change.kind() == Transition.Kind.RAISED
                    ? store.raise(moved.guard(), moved.component(), change)
                    : store.change(moved.guard(), moved.component(), change);
            events.publishEvent(new AlertChanged(alert, moved.guard(), moved.component(), change));
        }
        for (var counted : round.counted()) {
            store.count(counted.guard(), counted.component(), counted.value(), counted.worst())
                    .ifPresent(alert -> events.publishEvent(new AlertCounted(
                            alert, counted.guard(), counted.component(), counted.value(), counted.worst())));
        }
    }
}
