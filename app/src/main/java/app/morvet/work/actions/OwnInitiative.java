package app.morvet.work.actions;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.AlertsMoved;
import app.morvet.core.actions.OrderState;
import app.morvet.core.alert.Transition;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.People;
import app.morvet.ground.estate.Estate;
import app.morvet.work.cases.CaseBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Has done what a guard is to do by itself when it raises an alert: only what somebody who may ask for it has set, at most so
 * often, and never while a window holds the alert. The log of the case says what was done, and whether it helped.
 */
@Component
class OwnInitiative {
    private static final String GUARD = "guard";
    private static final Duration HELPS_WITHIN = Duration.ofMinutes(10);

    private final ActionStore store;
    private final Actions actions;
    private final Alerts alerts;
    private final CaseBook cases;
    private final People people;
    private final Estate estate;
    private final Clock clock;

    OwnInitiative(
            ActionStore store,
            Actions actions,
            Alerts alerts,
            CaseBook cases,
            People people,
            Estate estate,
            Clock clock) {
        this.store = store;
        this.actions = actions;
        this.alerts = alerts;
        this.cases = cases;
        this.people = people;
        this.estate = estate;
        this.clock = clock;
    }

    /** After the cases, so that there is one to write into. */
    @EventListener
    @Order(50)
    void on(AlertsMoved all) {
        for (var one : all.moved()) {
            var alert = one.alert();
            if (!alert.origin().kind().equals(GUARD)) continue;
            if (one.transition().kind() == Transition.Kind.CLEARED)
                helped(alert, one.transition().at());
            else if (begins(one.transition().kind()) && !alert.held() && !alert.flaps()) begin(alert);
        }
    }

    private static boolean begins(Transition.Kind kind) {
        return kind == Transition.Kind.RAISED || kind == Transition.Kind.RELEASED;
    }

    private void begin(Alert alert) {
        var wanted = store.ofGuard(alert.origin().id()).orElse(null);
        if (wanted == null) return;
        var now = clock.instant();
        long caseId = caseOf(alert);
        if (store.countOfGuard(wanted.guard(), now.minus(wanted.within())) >= wanted.atMost()) {
            log(
                    caseId,
                    "%s was not done by itself: that was %d times in %s already."
                            .formatted(wanted.action(), wanted.atMost(), Spans.words(wanted.within())),
                    now);
            return;
        }
        try {
            var by = people.byId(wanted.setBy())
                    .orElseThrow(() -> new IllegalArgumentException("Who has set it is gone."));
            var component = estate.component(alert.about().component());
            var offered = actions.on(component, caseId, by).offered().stream()
                    .filter(one -> wanted.means(one.name(), component.key()))
                    .findFirst()
                    .orElseThrow(() ->
                            new IllegalArgumentException("nobody who is heard can do it to " + component.name() + "."));
            long order = actions.ask(
                    offered.outpost(), offered.web(), offered.name(), wanted.arguments(), component, caseId, by);
            store.byItself(order, wanted.guard(), alert.id());
        } catch (IllegalArgumentException cannot) {
            log(caseId, "%s was not done by itself: %s".formatted(wanted.action(), cannot.getMessage()), now);
        }
    }

    private long caseOf(Alert alert) {
        return cases.openOn(alert.about().component()).stream()
                .mapToLong(one -> one.id())
                .findFirst()
                .orElse(0);
    }

    private void log(long caseId, String words, Instant at) {
        if (caseId != 0) cases.log(caseId, "action", words, at);
    }

    private void helped(Alert alert, Instant at) {
        store.unjudged(alert.id()).forEach(order -> {
            var done = order.doneAt();
            store.judged(order.id());
            if (order.state() == OrderState.DONE && done != null && order.caseId() != null)
                log(
                        order.caseId(),
                        "It is over %s after \"%s\" was done by itself."
                                .formatted(
                                        Spans.words(Duration.between(done, at.isBefore(done) ? done : at)),
                                        order.what()),
                        clock.instant());
        });
    }

    /** What is still there some minutes after it was done did not help. */
    @Transactional
    public void judge() {
        var now = clock.instant();
        for (var order : store.unjudgedBefore(now.minus(HELPS_WITHIN))) {
            store.judged(order.id());
            boolean up = order.alert() != null
                    && alerts.byId(order.alert()).filter(Alert::up).isPresent();
            if (up && order.caseId() != null)
                log(
                        order.caseId(),
                        "\"%s\", done by itself, did not help: the alert is still up %s after it."
                                .formatted(order.what(), Spans.words(HELPS_WITHIN)),
                        now);
        }
    }
}
