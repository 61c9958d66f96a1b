package app.morvet.alerts;

import app.morvet.batch.RunsMoved;
import app.morvet.core.alert.Transition;
import app.morvet.failures.FailuresMoved;
import app.morvet.guards.GuardsMoved;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
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
    /** What an alert that is up says by now. */
    private record Now(Instant at, double value, double worst, String words, @Nullable String worstWords) {}

    private final AlertStore store;
    private final ApplicationEventPublisher events;

    AlertBook(AlertStore store, ApplicationEventPublisher events) {
        this.store = store;
        this.events = events;
    }

    @EventListener
    void on(GuardsMoved round) {
        store.oneAfterTheOther();
        for (var moved : round.moved())
            move(
                    fold(moved.guard(), moved.group()),
                    new AlertStore.About(moved.component(), null, moved.series()),
                    new AlertSource.OfGuard(moved.guard()),
                    moved.transition(),
                    moved.words(),
                    moved.worst());
        for (var counted : round.counted())
            count(
                    fold(counted.guard(), counted.group()),
                    counted.series(),
                    new AlertSource.OfGuard(counted.guard()),
                    new Now(counted.at(), counted.value(), counted.worst(), counted.words(), counted.worstWords()));
    }

    @EventListener
    void on(FailuresMoved round) {
        store.oneAfterTheOther();
        for (var moved : round.moved()) {
            var told = moved.fold();
            var about = new AlertStore.About(told.component(), told.family(), null);
            move(fold(told), about, source(told), moved.transition(), moved.words(), moved.words());
        }
        for (var counted : round.counted()) {
            var now = new Now(counted.at(), counted.failures(), counted.failures(), counted.words(), counted.words());
            count(fold(counted.fold()), null, source(counted.fold()), now);
        }
    }

    @EventListener
    void on(RunsMoved round) {
        store.oneAfterTheOther();
        for (var moved : round.moved())
            move(
                    overRuns(moved.guard(), moved.component()),
                    new AlertStore.About(moved.component(), null, null),
                    new AlertSource.OfRunGuard(moved.guard(), moved.cause()),
                    moved.transition(),
                    moved.words(),
                    onlyAt(moved.transition().worst(), moved.transition().value(), moved.words()));
        for (var counted : round.counted())
            count(
                    overRuns(counted.guard(), counted.component()),
                    null,
                    new AlertSource.OfRunGuard(counted.guard(), counted.component()),
                    new Now(
                            counted.at(),
                            counted.value(),
                            counted.worst(),
                            counted.words(),
                            onlyAt(counted.worst(), counted.value(), counted.words())));
    }

    /** Words of the worst, where they are said at the worst. */
    private static @Nullable String onlyAt(double worst, double value, String words) {
        return Double.compare(worst, value) == 0 ? words : null;
    }

    private void move(
            AlertStore.Fold fold,
            AlertStore.About about,
            AlertSource source,
            Transition change,
            String words,
            @Nullable String worst) {
        var alert = change.kind() == Transition.Kind.RAISED
                ? Optional.of(store.raise(fold, about, change, words))
                : store.change(fold, change, words);
        // A guard that kept silent while its alert was raised has none to change.
        alert.ifPresent(
                id -> events.publishEvent(new AlertChanged(id, source, about.component(), change, words, worst)));
    }

    private void count(AlertStore.Fold fold, @Nullable Long series, AlertSource source, Now now) {
        store.count(fold, series, now.value(), now.worst(), now.words())
                .ifPresent(alert -> events.publishEvent(new AlertCounted(
                        alert, source, now.at(), now.value(), now.worst(), now.words(), now.worstWords())));
    }

    private static AlertStore.Fold fold(long guard, String group) {
        return new AlertStore.Fold(AlertStore.Kind.GUARD, guard, group);
    }

    private static AlertStore.Fold fold(FailuresMoved.Fold told) {
        return new AlertStore.Fold(AlertStore.Kind.RULE, told.rule(), told.key());
    }

    private static AlertStore.Fold overRuns(long guard, long component) {
        return new AlertStore.Fold(AlertStore.Kind.RUN_GUARD, guard, "c" + component);
    }

    private static AlertSource source(FailuresMoved.Fold told) {
        return new AlertSource.OfRule(told.rule(), told.family(), told.overAll());
    }
}
