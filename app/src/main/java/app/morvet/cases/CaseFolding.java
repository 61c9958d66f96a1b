package app.morvet.cases;

import app.morvet.alerts.AlertChanged;
import app.morvet.alerts.AlertCounted;
import app.morvet.alerts.AlertSource;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.cases.Comeback;
import app.morvet.core.cases.Headline;
import app.morvet.estate.Estate;
import app.morvet.messages.MessageStore;
import app.morvet.page.Live;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Folds alerts into cases: what has one cause is one piece of work. Failed messages are one for each family on each
 * interface, or as their rule folds; whatever else alerts on a component is one for the component; what
 * a job in trouble does to those that wait for it is part of that job's. An alert joins the open
 * case that it belongs to, or one that explains it, or reopens one settled lately, or opens a new one. Runs in the
 * transaction of the round that raised it.
 */
@Component
class CaseFolding {
    private final CaseStore store;
    private final AlertSources sources;
    private final Explanations explanations;
    private final Estate estate;
    private final MessageStore messages;
    private final Live live;
    private final ApplicationEventPublisher events;

    CaseFolding(
            CaseStore store,
            AlertSources sources,
            Explanations explanations,
            Estate estate,
            MessageStore messages,
            Live live,
            ApplicationEventPublisher events) {
        this.store = store;
        this.sources = sources;
        this.explanations = explanations;
        this.estate = estate;
        this.messages = messages;
        this.live = live;
        this.events = events;
    }

    @EventListener
    void on(AlertChanged changed) {
        var change = changed.transition();
        switch (change.kind()) {
            case RAISED -> raised(changed);
            case ROSE, EASED, FLAPS, CLEARED -> moved(changed);
        }
        live.changed("cases");
        live.changed("now");
    }

    @EventListener
    void on(AlertCounted counted) {
        var alert = store.alert(counted.alert()).orElseThrow();
        var folded = store.lock(alert.caseId());
        boolean worse = isWorse(alert, counted.worst());
        store.changeAlert(
                counted.alert(),
                alert.level(),
                counted.value(),
                worse ? counted.worst() : alert.worst(),
                null,
                false,
                counted.words(),
                worse ? counted.worstWords() : null);
        var atSettling = alert.atSettling();
        if (folded.settled()) {
            if (atSettling != null && sources.grewAgain(counted.source(), atSettling, counted.value())) {
                var at = messages.span(folded.scope(), folded.firstSeen(), farAhead(folded))
                        .last();
                reopen(folded, at == null ? folded.lastSeen() : at, "it grew again after it was settled");
            }
            return;
        }
        measure(folded, counted.at());
        live.changed("cases");
    }

    private void raised(AlertChanged changed) {
        var change = changed.transition();
        var level = level(change.level());
        var home = home(changed);
        long caseId = home.map(Home::into).map(WorkCase::id).orElseGet(() -> open(changed));
        store.addAlert(
                changed.alert(),
                caseId,
                changed.source(),
                changed.component(),
                level,
                change.value(),
                change.worst(),
                change.at(),
                changed.words());
        var folded = store.lock(caseId);
        if (folded.settled()) {
            reopen(folded, change.at(), "\"" + sources.name(changed.source()) + "\" alerts again");
            return;
        }
        store.addEntry(caseId, change.at(), null, "alert", changed.words(), null);
        home.map(Home::why)
                .filter(why -> !why.isEmpty())
                .ifPresent(why ->
                        store.addEntry(caseId, change.at(), null, "explained", "This explains it: " + why, null));
        wakeIfWorse(folded, level, change.at());
        measure(folded, change.at());
        if (level == Severity.CRITICAL) events.publishEvent(new CaseTurnedCritical(caseId, change.at()));
    }

    /** The case that an alert goes into; {@code why} says so where that is not plain. */
    private record Home(WorkCase into, String why) {}

    private Optional<Home> home(AlertChanged changed) {
        return switch (changed.source()) {
            case AlertSource.OfGuard guard ->
                store.openOn(changed.component())
                        .or(() -> store.lastSettledOn(changed.component()).filter(one -> comesBack(one, changed)))
                        .map(one -> new Home(one, ""));
            // What a slow or failed job does to those after it belongs to the case of that job.
            case AlertSource.OfRunGuard(long guard, long cause) ->
                store.openOn(cause)
                        .or(() -> store.openOn(changed.component()))
                        .or(() -> store.lastSettledOn(cause).filter(one -> comesBack(one, changed)))
                        .map(one -> new Home(one, ""));
            case AlertSource.OfRule(long rule, long family, boolean overAll) -> {
                Long about = overAll ? rule : null;
                yield store.openAbout(changed.component(), family, about)
                        .map(one -> new Home(one, ""))
                        .or(() -> explanations
                                .of(rule, changed.component())
                                .map(found -> new Home(store.lock(found.by().id()), found.why())))
                        .or(() -> overAll ? Optional.empty() : adopted(changed.component(), family))
                        .or(() -> store.lastSettledAbout(changed.component(), family, about)
                                .filter(one -> comesBack(one, changed))
                                .map(one -> new Home(one, "")));
            }
        };
    }

    private static boolean comesBack(WorkCase settled, AlertChanged changed) {
        var at = settled.standing().settledAt();
        return at != null && Comeback.reopens(at, changed.transition().at());
    }

    /** A case that guards opened about an interface's failures before any family was told is about the first that is. */
    private Optional<Home> adopted(long component, long family) {
        var open = store.openOn(component).filter(one -> one.family() == null && one.rule() == null);
        if (open.isEmpty()
                || store.alerts(open.get().id()).stream().noneMatch(alert -> sources.ofMessages(alert.source())))
            return Optional.empty();
        store.isAbout(open.get().id(), family);
        return Optional.of(new Home(store.lock(open.get().id()), ""));
    }

    private long open(AlertChanged changed) {
        var at = changed.transition().at();
        var start = sources.windowStart(changed.source(), at);
        var of = changed.source() instanceof AlertSource.OfRule rule ? rule : null;
        return store.add(
                changed.source() instanceof AlertSource.OfRunGuard run ? run.cause() : changed.component(),
                of == null || of.overAll() ? null : of.family(),
                of != null && of.overAll() ? of.rule() : null,
                level(changed.transition().level()),
                changed.words(),
                at,
                start);
    }

    private void moved(AlertChanged changed) {
        var change = changed.transition();
        var alert = store.alert(changed.alert()).orElseThrow();
        var folded = store.lock(alert.caseId());
        var level = change.level() == null ? alert.level() : change.level();
        var clearedAt = change.level() == null ? change.at() : null;
        boolean flaps = change.kind() == Transition.Kind.FLAPS;
        boolean worse = isWorse(alert, change.worst());
        store.changeAlert(
                changed.alert(),
                level,
                change.value(),
                worse ? change.worst() : alert.worst(),
                clearedAt,
                flaps,
                clearedAt == null ? changed.words() : null,
                worse ? changed.worst() : null);
        var name = sources.name(changed.source());
        var words =
                switch (change.kind()) {
                    case ROSE -> "rose to " + level.word() + ": " + changed.words();
                    case EASED -> "eased to " + level.word() + ": " + changed.words();
                    case FLAPS -> "\"%s\" comes and goes; it stays up until it is steady".formatted(name);
                    case CLEARED, RAISED -> "\"%s\" has cleared".formatted(name);
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
        switch (change.kind()) {
            case ROSE -> {
                if (level == Severity.CRITICAL) events.publishEvent(new CaseTurnedCritical(folded.id(), change.at()));
            }
            case CLEARED -> {
                if (store.alerts(folded.id()).stream().noneMatch(CaseAlert::up))
                    events.publishEvent(new CaseOver(folded.id(), change.at()));
            }
            case RAISED, EASED, FLAPS -> {
                // nobody needs to be told
            }
        }
    }

    /** What was worst stays so, though the series that was at its worst may be back before others of its alert. */
    private boolean isWorse(CaseAlert alert, double worst) {
        return Double.compare(sources.worse(alert.source(), alert.worst(), worst), alert.worst()) != 0;
    }

    private void reopen(WorkCase settled, Instant at, String why) {
        store.change(settled, WorkCase.Standing.fresh());
        store.markSettling(settled.id(), false);
        store.addEntry(settled.id(), at, null, "reopened", "The case is open again: " + why, null);
        var severity = measure(store.lock(settled.id()), at);
        if (severity == Severity.CRITICAL) events.publishEvent(new CaseTurnedCritical(settled.id(), at));
        live.changed("cases");
        live.changed("now");
    }

    /** Quiet was agreed on for what was known; what is worse than that speaks again. */
    private void wakeIfWorse(WorkCase folded, Severity level, Instant at) {
        if (folded.standing().quietUntil() == null || !level.worseThan(folded.severity())) return;
        store.change(folded, folded.standing().quietUntil(null));
        store.addEntry(folded.id(), at, null, "woke", "Quiet has ended: it became " + level.word(), null);
    }

    /** Brings the case's figures and words up to its alerts; gives back its severity. */
    private Severity measure(WorkCase folded, Instant at) {
        var alerts = inTellingOrder(folded.id());
        var up = alerts.stream().filter(CaseAlert::up).toList();
        var severity =
                up.stream().map(CaseAlert::level).max(Comparator.naturalOrder()).orElse(folded.severity());
        var overSince = up.isEmpty()
                ? alerts.stream()
                        .map(CaseAlert::clearedAt)
                        .filter(java.util.Objects::nonNull)
                        .max(Comparator.naturalOrder())
                        .orElse(null)
                : null;
        var span = messages.span(folded.scope(), folded.firstSeen(), overSince == null ? farAhead(folded) : overSince);
        var first = span.first() == null ? folded.firstSeen() : span.first();
        // Where no message failed, trouble was last seen when its value was last judged.
        var seen = overSince == null ? later(folded.lastSeen(), at) : overSince;
        var last = span.last() == null ? seen : span.last();
        store.measure(folded.id(), severity, headline(folded, alerts), first, last, span.failures(), overSince);
        return severity;
    }

    private List<CaseAlert> inTellingOrder(long caseId) {
        return TellingOrder.of(store.alerts(caseId), sources);
    }

    private String headline(WorkCase folded, List<CaseAlert> alerts) {
        var component = estate.component(folded.component()).name();
        return alerts.stream()
                .filter(CaseAlert::up)
                .findFirst()
                .map(alert -> alert.flaps() ? alert.words() + " (comes and goes)" : alert.words())
                .orElseGet(() -> Headline.over(
                        component,
                        alerts.stream().findFirst().map(CaseAlert::worstWords).orElse(folded.headline())));
    }

    private static Instant later(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }

    private static Severity level(@Nullable Severity level) {
        return level == null ? Severity.WARNING : level;
    }

    /** Later than any failure that can be stored for the case: events may be a few minutes ahead of the clock. */
    private static Instant farAhead(WorkCase folded) {
        return folded.openedAt().plus(java.time.Duration.ofDays(3650));
    }
}
