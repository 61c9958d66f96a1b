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
            var alert = change.kind() == Transition.Kind.RAISED
                    ? java.util.Optional.of(store.raise(moved))
                    : store.change(moved);
            // A guard that kept silent while its alert was raised has none to change.
            alert.ifPresent(id ->
                    events.publishEvent(new AlertChanged(id, moved.guard(), moved.component(), change, moved.words())));
        }
        for (var counted : round.counted()) {
            store.count(counted)
                    .ifPresent(alert -> events.publishEvent(new AlertCounted(
                            alert, counted.guard(), counted.at(), counted.value(), counted.worst(), counted.words())));
        }
    }
}
