package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Origins;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.page.Live;
import app.morvet.sources.messages.MessageScope;
import java.time.Duration;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The alerts of a case, and what they say of it together. */
@Component
class CaseAlerts {
    /** It is told by whoever changes it; this is for what is told while a node hears of nothing. */
    private static final Duration OPEN_LASTS = Duration.ofSeconds(5);

    private record Open(OpenTrouble trouble, long readAt) {
        boolean isFresh() {
            return System.nanoTime() - readAt < OPEN_LASTS.toNanos();
        }
    }

    private final CaseStore store;
    private final Alerts alerts;
    private final Origins origins;
    private final Remembered<Open> open =
            new Remembered<>(() -> new Open(readOpen(), System.nanoTime()), Open::isFresh);

    CaseAlerts(CaseStore store, Alerts alerts, Origins origins, Live live) {
        this.store = store;
        this.alerts = alerts;
        this.origins = origins;
        live.hear(Set.of("cases"), open::forget);
    }

    /** The one that tells most first: the headline is its, and so is the curve that stands on top. */
    List<Alert> of(long caseId) {
        return alerts.inTellingOrder(store.alerts(caseId));
    }

    /** The same as the case tells them: those of its cause before those that it explains, among what is up and among what is over. */
    List<Alert> told(WorkCase one) {
        return of(one.id()).stream()
                .sorted(Comparator.comparing((Alert alert) -> !alert.up())
                        .thenComparing(alert -> alert.about().cause() != one.component() && !isEverywhere(one)))
                .toList();
    }

    private static boolean isEverywhere(WorkCase one) {
        return one.topic() != null && one.topic().everywhere();
    }

    List<Alert> upOf(long caseId) {
        return alerts.byIds(store.alerts(caseId)).stream().filter(Alert::up).toList();
    }

    /** Read once for all who look, until something of it changes. For pages: what decides has to lock and to read itself. */
    OpenTrouble openTrouble() {
        return open.get().trouble();
    }

    private OpenTrouble readOpen() {
        var up = alerts.up();
        var open = store.open();
        var byId = open.stream().collect(Collectors.toMap(WorkCase::id, one -> one));
        var caseOf = new HashMap<Long, WorkCase>();
        store.casesOf(up.stream().map(Alert::id).toList()).forEach((alert, id) -> {
            var one = byId.get(id);
            if (one != null) caseOf.put(alert, one);
        });
        return OpenTrouble.of(up, open, caseOf);
    }

    /** The failed messages of a case: its own, and those of alerts that it explains; none of them twice. */
    List<MessageScope> scopes(WorkCase one, List<Alert> alerts) {
        var scopes = new LinkedHashSet<MessageScope>();
        var topic = one.topic();
        if (one.isAboutFailures()) scopes.add(one.scope());
        if (topic != null && topic.everywhere()) return List.copyOf(scopes);
        for (var alert : alerts) {
            var scope = origins.of(alert).messages(alert);
            // On its own component it is about what its topic says, and about no more.
            if (scope.isPresent() && !(one.isAboutFailures() && alert.about().component() == one.component()))
                scopes.add(scope.get());
        }
        scopes.removeIf(scope -> scope.family() != null
                && scope.component() != null
                && scopes.contains(MessageScope.of(scope.component())));
        return List.copyOf(scopes);
    }
}
