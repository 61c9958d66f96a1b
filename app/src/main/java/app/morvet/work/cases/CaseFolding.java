package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.AlertsMoved;
import app.morvet.alerting.alerts.Origins;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Topic;
import app.morvet.core.alert.Transition;
import app.morvet.core.cases.Causes;
import app.morvet.core.cases.Headline;
import app.morvet.core.cases.Home;
import app.morvet.core.cases.ResponseTime;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.EstateLinks;
import app.morvet.ground.page.Live;
import app.morvet.sources.messages.FailuresSoFar;
import app.morvet.sources.messages.MessageStore;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Folds alerts into cases: what has one cause is one piece of work. Which case is whose says {@link Home}, from what the alert
 * is about; here it is done, and the case's words and figures follow its alerts. Runs in the transaction of whoever found
 * what is wrong. What is held is nobody's work and comes into no case.
 */
@Component
class CaseFolding {
    private final CaseStore store;
    private final CaseAlerts alerts;
    private final Origins origins;
    private final Explanations explanations;
    private final Estate estate;
    private final EstateLinks links;
    private final MessageStore messages;
    private final FailuresSoFar soFar;
    private final Live live;
    private final ApplicationEventPublisher events;

    CaseFolding(
            CaseStore store,
            CaseAlerts alerts,
            Origins origins,
            Explanations explanations,
            Estate estate,
            EstateLinks links,
            MessageStore messages,
            FailuresSoFar soFar,
            Live live,
            ApplicationEventPublisher events) {
        this.store = store;
        this.alerts = alerts;
        this.origins = origins;
        this.explanations = explanations;
        this.estate = estate;
        this.links = links;
        this.messages = messages;
        this.soFar = soFar;
        this.live = live;
        this.events = events;
    }

    /** First of all who hear of it: others write into the cases. */
    @EventListener
    @Order(0)
    void on(AlertsMoved all) {
        // What only says something new is reckoned once a case, after all else has moved.
        var said = new LinkedHashMap<Long, Instant>();
        boolean hearsAll =
                all.moved().stream().allMatch(one -> origins.of(one.alert()).hearsAllMessages());
        for (var one : causesFirst(all.moved())) {
            if (one.alert().held()) continue;
            var change = one.transition();
            switch (change.kind()) {
                case RAISED -> raised(one.alert(), change, "");
                case RELEASED -> raised(one.alert(), change, one.why());
                case SAYS -> says(one.alert(), change, said);
                case ROSE, EASED, FLAPS, CLEARED -> moved(one.alert(), change);
            }
        }
        said.forEach((id, at) -> measure(store.lock(id), at, hearsAll));
        live.changed("cases");
        if (all.moved().stream().anyMatch(one -> one.transition().kind() != Transition.Kind.SAYS)) live.changed("now");
    }

    /** What is heard at once is taken so that what others depend on opens the case that they join. */
    private List<AlertsMoved.Moved> causesFirst(List<AlertsMoved.Moved> moved) {
        if (moved.size() < 2) return moved;
        var components =
                moved.stream().map(one -> one.alert().about().component()).toList();
        return Causes.order(components, links).stream().map(moved::get).toList();
    }

    private void says(Alert alert, Transition change, Map<Long, Instant> said) {
        var belongs = store.belongs(alert.id()).orElse(null);
        if (belongs == null) return;
        var folded = store.lock(belongs.caseId());
        store.fell(alert.id(), change.value());
        var atSettling = belongs.atSettling();
        if (!folded.settled()) said.merge(folded.id(), change.at(), CaseFolding::later);
        else if (atSettling != null && origins.of(alert).grewAgain(alert, atSettling)) {
            var last = messages.span(folded.scope(), folded.firstSeen(), farAhead(folded))
                    .last();
            reopen(folded, last == null ? folded.lastSeen() : last, "it grew again after it was settled");
        }
    }

    /** @param heldUntilNow why it was held until now, in a sentence; empty where it was not */
    private void raised(Alert alert, Transition change, String heldUntilNow) {
        var why = new AtomicReference<String>();
        var home = Home.of(alert.about(), change.at(), store.known(alert.about()), () -> {
            var found = explanations.of(alert);
            found.ifPresent(one -> why.set(one.why()));
            return found.map(Explanations.Explanation::by);
        });
        long into =
                switch (home) {
                    case Home.Joins(long id) -> id;
                    case Home.Explained(long id) -> id;
                    case Home.Becomes(long id) -> id;
                    case Home.Reopens(long id) -> id;
                    case Home.Opens() -> open(alert, change.at());
                };
        store.put(alert.id(), into);
        var folded = store.lock(into);
        var topic = alert.about().topic();
        if (home instanceof Home.Becomes && topic != null) store.becomes(into, topic, change.at());
        else if (Objects.equals(folded.topic(), topic)) store.raisedSince(into, change.at());
        if (folded.settled()) {
            reopen(folded, change.at(), "\"" + origins.of(alert).name(alert) + "\" alerts again");
            if (!heldUntilNow.isEmpty()) store.addEntry(into, change.at(), null, "window", heldUntilNow, null);
            events.publishEvent(new CaseOpened(into, alert.about().component(), change.at()));
            return;
        }
        store.addEntry(into, change.at(), null, "alert", alert.words(), null);
        if (!heldUntilNow.isEmpty()) store.addEntry(into, change.at(), null, "window", heldUntilNow, null);
        if (home instanceof Home.Explained)
            store.addEntry(into, change.at(), null, "explained", "This explains it: " + why.get(), null);
        wakeIfWorse(folded, alert.level(), change.at());
        measure(store.lock(into), change.at());
        if (topic != null)
            Home.gathering(alert.about(), store.known(alert.about()))
                    .ifPresent(gathering -> gather(alert.about(), topic, gathering, change.at()));
        events.publishEvent(new CaseTurned(into, alert.level(), change.at()));
        if (home instanceof Home.Explained)
            events.publishEvent(new CaseExplains(into, alert.about().component(), change.at()));
        // The first that tells of more than what will come may explain what was there before.
        if (!origins.of(alert).foretells(alert))
            events.publishEvent(new CaseOpened(into, alert.about().component(), change.at()));
    }

    /** What is about all trouble of a sort goes with the first of that sort, though it was heard later. */
    private void gather(About about, Topic topic, Home.Gathering gathering, Instant at) {
        for (long from : gathering.from()) {
            var moving = alerts.upOf(from).stream()
                    .filter(alert -> Topic.all(topic.of()).equals(alert.about().topic()))
                    .filter(alert -> alert.about().cause() == about.cause())
                    .toList();
            for (var alert : moving) {
                store.put(alert.id(), gathering.into());
                var words = "\"%s\" goes with case %d, which began before this"
                        .formatted(origins.of(alert).name(alert), gathering.into());
                store.addEntry(from, at, null, "alert", words, null);
                store.addEntry(gathering.into(), at, null, "alert", alert.words(), null);
            }
            if (!moving.isEmpty()) measure(store.lock(from), at);
        }
        measure(store.lock(gathering.into()), at);
    }

    /** A new case of it, for which somebody is waited from an instant on: later than it was raised where it was held, or part of another. */
    long open(Alert alert, Instant at) {
        return store.add(
                alert.about().cause(),
                alert.about().topic(),
                alert.level(),
                alert.words(),
                alert.raisedAt(),
                respondBy(null, at, alert.level(), alert.about().cause()),
                origins.of(alert).troubleBegan(alert));
    }

    private void moved(Alert alert, Transition change) {
        var belongs = store.belongs(alert.id()).orElse(null);
        if (belongs == null) return;
        var folded = store.lock(belongs.caseId());
        store.fell(alert.id(), change.value());
        var level = alert.level();
        var name = origins.of(alert).name(alert);
        var words =
                switch (change.kind()) {
                    case ROSE -> "rose to " + level.word() + ": " + alert.words();
                    case EASED -> "eased to " + level.word() + ": " + alert.words();
                    case FLAPS -> "\"%s\" comes and goes; it stays up until it is steady".formatted(name);
                    case CLEARED, RAISED, RELEASED, SAYS -> "\"%s\" has cleared".formatted(name);
                };
        store.addEntry(folded.id(), change.at(), null, "alert", words, null);
        if (folded.settled()) {
            if (level == Severity.CRITICAL && change.kind() == Transition.Kind.ROSE) {
                reopen(folded, change.at(), "it rose to critical after it was settled");
            }
            return;
        }
        wakeIfWorse(folded, level, change.at());
        measure(folded, change.at());
        if (change.kind() == Transition.Kind.ROSE) events.publishEvent(new CaseTurned(folded.id(), level, change.at()));
        if (change.kind() == Transition.Kind.CLEARED && alerts.upOf(folded.id()).isEmpty())
            events.publishEvent(new CaseOver(folded.id(), change.at()));
    }

    private void reopen(WorkCase settled, Instant at, String why) {
        store.change(settled, WorkCase.Progress.fresh());
        store.forgetSettling(settled.id());
        store.addEntry(settled.id(), at, null, "reopened", "The case is open again: " + why, null);
        var severity = measure(store.lock(settled.id()), at);
        store.respondBy(settled.id(), respondBy(null, at, severity, settled.component()));
        events.publishEvent(new CaseTurned(settled.id(), severity, at));
        live.changed("cases");
        live.changed("now");
    }

    /** Quiet was agreed on for what was known; what is worse than that speaks again. */
    private void wakeIfWorse(WorkCase folded, Severity level, Instant at) {
        if (folded.progress().quietUntil() == null || !level.worseThan(folded.severity())) return;
        store.change(folded, folded.progress().quietUntil(null));
        store.addEntry(folded.id(), at, null, "woke", "Quiet has ended: it became " + level.word(), null);
    }

    /** Brings the case's figures and words up to its alerts; gives back its severity. */
    Severity measure(WorkCase folded, Instant at) {
        return measure(folded, at, false);
    }

    /** @param hearsAll whether whoever says something new is told of all messages, so that they need not be counted anew */
    private Severity measure(WorkCase folded, Instant at, boolean hearsAll) {
        var all = alerts.told(folded);
        var up = all.stream().filter(Alert::up).toList();
        var severity =
                up.stream().map(Alert::level).max(Comparator.naturalOrder()).orElse(folded.severity());
        var overSince = up.isEmpty() ? lastEnd(all) : null;
        var until = overSince == null ? farAhead(folded) : overSince;
        // Where no message failed, trouble was last seen when its value was last judged.
        var first = folded.firstSeen();
        Instant last = null;
        long failures = 0;
        for (var scope : alerts.scopes(folded, all)) {
            var span = hearsAll && overSince == null
                    ? soFar.since(scope, folded.firstSeen())
                    : messages.span(scope, folded.firstSeen(), until);
            failures += span.failures();
            if (span.first() != null && folded.isAboutFailures()) first = span.first();
            if (span.last() != null && (last == null || span.last().isAfter(last))) last = span.last();
        }
        if (last == null) last = overSince != null ? overSince : later(folded.lastSeen(), at);
        var promised = folded.overSince() != null && overSince == null ? null : folded.respondBy();
        var respondBy = respondBy(promised, at, severity, folded.component());
        store.measure(folded.id(), severity, headline(folded, all), respondBy, first, last, failures, overSince);
        return severity;
    }

    private Instant respondBy(@Nullable Instant promised, Instant turned, Severity severity, long component) {
        return ResponseTime.by(promised, turned, severity, estate.tierOf(estate.component(component)));
    }

    private static @Nullable Instant lastEnd(List<Alert> alerts) {
        return alerts.stream()
                .map(Alert::clearedAt)
                .filter(Objects::nonNull)
                .max(Comparator.naturalOrder())
                .orElse(null);
    }

    private String headline(WorkCase folded, List<Alert> alerts) {
        var component = estate.component(folded.component()).name();
        return alerts.stream()
                .filter(Alert::up)
                .findFirst()
                .map(alert -> alert.flaps() ? alert.words() + " (comes and goes)" : alert.words())
                .orElseGet(() -> Headline.over(
                        component,
                        alerts.stream().findFirst().map(Alert::worstWords).orElse(folded.headline())));
    }

    private static Instant later(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }

    /** Later than any failure that can be stored for the case: events may be a few minutes ahead of the clock. */
    private static Instant farAhead(WorkCase folded) {
        return folded.openedAt().plus(Duration.ofDays(3650));
    }
}
