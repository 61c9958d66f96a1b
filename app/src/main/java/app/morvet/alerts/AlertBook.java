package app.morvet.alerts;

import app.morvet.batch.RunsMoved;
import app.morvet.core.alert.Transition;
import app.morvet.failures.FailuresMoved;
import app.morvet.guards.GuardsMoved;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Keeps the alerts as guards, failed messages and runs make them, and passes each change on in the same transaction. They
 * are judged by threads of their own, on any node; what they make of alerts comes one after the other, since two
 * alerts at once may belong into one case.
 */
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
        store.oneAfterTheOther();
        for (var moved : round.moved()) {
            var change = moved.transition();
            var source = new AlertSource.OfGuard(moved.guard());
            var alert = change.kind() == Transition.Kind.RAISED
                    ? java.util.Optional.of(store.raise(moved))
                    : store.change(moved);
            // A guard that kept silent while its alert was raised has none to change.
            alert.ifPresent(
                    id -> events.publishEvent(new AlertChanged(id, source, moved.component(), change, moved.words())));
        }
        for (var counted : round.counted()) {
            store.count(counted)
                    .ifPresent(alert -> events.publishEvent(new AlertCounted(
                            alert,
                            new AlertSource.OfGuard(counted.guard()),
                            counted.at(),
                            counted.value(),
                            counted.worst(),
                            counted.words())));
        }
    }

    @EventListener
    void on(FailuresMoved round) {
        store.oneAfterTheOther();
        for (var moved : round.moved()) {
            var fold = moved.fold();
            var change = moved.transition();
            var alert = change.kind() == Transition.Kind.RAISED
                    ? java.util.Optional.of(store.raise(moved))
                    : store.clear(moved);
            alert.ifPresent(id ->
                    events.publishEvent(new AlertChanged(id, source(fold), fold.component(), change, moved.words())));
        }
        for (var counted : round.counted()) {
            store.count(counted)
                    .ifPresent(alert -> events.publishEvent(new AlertCounted(
                            alert,
                            source(counted.fold()),
                            counted.at(),
                            counted.failures(),
                            counted.failures(),
                            counted.words())));
        }
    }

    @EventListener
    void on(RunsMoved round) {
        store.oneAfterTheOther();
        for (var moved : round.moved()) {
            var change = moved.transition();
            var source = new AlertSource.OfRunGuard(moved.guard(), moved.cause());
            var alert = change.kind() == Transition.Kind.RAISED
                    ? java.util.Optional.of(store.raise(moved))
                    : store.change(moved);
            alert.ifPresent(
                    id -> events.publishEvent(new AlertChanged(id, source, moved.component(), change, moved.words())));
        }
        for (var counted : round.counted()) {
            store.count(counted)
                    .ifPresent(alert -> events.publishEvent(new AlertCounted(
                            alert,
                            new AlertSource.OfRunGuard(counted.guard(), counted.component()),
                            counted.at(),
                            counted.value(),
                            counted.worst(),
                            counted.words())));
        }
    }

    private static AlertSource source(FailuresMoved.Fold fold) {
        return new AlertSource.OfRule(fold.rule(), fold.family(), fold.overAll());
    }
}
