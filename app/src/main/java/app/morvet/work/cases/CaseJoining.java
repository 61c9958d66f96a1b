package app.morvet.work.cases;

import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.Earlier;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.Person;
import app.morvet.ground.page.Live;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Two cases that have one cause become one, and one that has two becomes two. By itself this happens where a cause is heard of after what it
 * explains ({@link Earlier}); people do it where they know more. The alerts of one go over into the other, and it is settled as its part.
 */
@Service
@Transactional
public class CaseJoining {
    private static final int MOST_CHOICES = 50;

    private final CaseStore store;
    private final JoinedCases joined;
    private final CaseFolding folding;
    private final CaseAlerts alerts;
    private final Explanations explanations;
    private final KnownCauses causes;
    private final AlertDesk desk;
    private final Live live;
    private final ApplicationEventPublisher events;

    CaseJoining(
            CaseStore store,
            JoinedCases joined,
            CaseFolding folding,
            CaseAlerts alerts,
            Explanations explanations,
            KnownCauses causes,
            AlertDesk desk,
            Live live,
            ApplicationEventPublisher events) {
        this.store = store;
        this.joined = joined;
        this.folding = folding;
        this.alerts = alerts;
        this.explanations = explanations;
        this.causes = causes;
        this.desk = desk;
        this.live = live;
        this.events = events;
    }

    /** What was in trouble shortly before, and is explained by what opens, is a part of it. */
    @EventListener
    void on(CaseOpened opened) {
        var into = store.byId(opened.caseId()).orElseThrow();
        var dependents = explanations.dependents(opened.component());
        if (into.settled() || dependents.isEmpty()) return;
        var known = joined.openSince(opened.at().minus(Earlier.BEFORE)).stream()
                .filter(one -> one.id() != into.id() && dependents.contains(one.component()))
                .map(one -> new Earlier.Known(one.id(), one.openedAt(), isUntouched(one), explainedBy(one)))
                .toList();
        for (long id : Earlier.explained(known, into.id(), opened.at())) {
            var from = store.lock(id);
            if (!isUntouched(from)) continue;
            var why = alerts.upOf(id).stream()
                    .flatMap(alert -> explanations.of(alert).stream())
                    .map(Explanations.Explanation::why)
                    .findFirst()
                    .orElse("");
            join(from, into.id(), null, "This explains case %d: %s".formatted(id, why), opened.at());
        }
    }

    private static boolean isUntouched(WorkCase one) {
        var work = one.progress();
        return work.state() == CaseState.NEW
                && work.takenBy() == null
                && !work.returned()
                && work.quietUntil() == null
                && one.overSince() == null;
    }

    private List<Long> explainedBy(WorkCase one) {
        if (!isUntouched(one)) return List.of();
        return alerts.upOf(one.id()).stream()
                .map(alert ->
                        explanations.of(alert).map(Explanations.Explanation::by).orElse(0L))
                .toList();
    }

    /**
     * Somebody says that a case is a part of another.
     *
     * @param version  of the one that becomes a part, as they saw it
     * @param remember whether the next time trouble of the one's component is taken for the other's doing by itself
     * @throws Overtaken                where it has moved on since
     * @throws IllegalArgumentException where it cannot be; says why
     */
    public void join(long id, int version, long into, boolean remember, Person by, Instant at) {
        // Nothing is folded meanwhile, so no two of those who move alerts wait for each other.
        desk.lock();
        var target = store.byId(into)
                .filter(one -> !one.settled())
                .orElseThrow(() -> new IllegalArgumentException("Choose an open case."));
        if (id == into) throw new IllegalArgumentException("A case is no part of itself.");
        var from = store.lock(id);
        if (from.version() != version || from.settled())
            throw new Overtaken("The case has changed since you opened it. Nothing of yours was done.");
        if (from.state() == CaseState.HANDED_OFF)
            throw new IllegalArgumentException(
                    "It is with its team. Take it back first, so that nobody works on it for nothing.");
        join(from, target.id(), by, "case %d is a part of this: %s".formatted(id, from.headline()), at);
        if (remember && from.component() != target.component())
            causes.remember(from.component(), target.component(), by.id(), at);
    }

    private void join(WorkCase from, long into, @Nullable Person by, String words, Instant at) {
        var person = by == null ? null : by.id();
        var before = store.lock(into).severity();
        for (var alert : alerts.of(from.id())) {
            store.put(alert.id(), into);
            if (alert.up()) store.addEntry(into, at, null, "alert", alert.words(), null);
        }
        store.change(from, from.progress().settled(SettleReason.JOINED, at));
        joined.join(from.id(), into);
        store.addEntry(from.id(), at, person, "joined", "goes on in case " + into, null);
        store.addEntry(into, at, person, by == null ? "explained" : "joined", words, null);
        var severity = folding.measure(store.lock(into), at);
        events.publishEvent(new CaseJoined(from.id(), into, at));
        events.publishEvent(new CaseExplains(into, from.component(), at));
        if (severity.worseThan(before)) events.publishEvent(new CaseTurned(into, severity, at));
        tellPages();
    }

    /**
     * Somebody says that an alert of a case has a cause of its own.
     *
     * @return the case that it is in from now on
     * @throws Overtaken                where the case has moved on since
     * @throws IllegalArgumentException where it is the only one
     */
    public long split(long id, int version, long alert, Person by, Instant at) {
        desk.lock();
        var from = store.lock(id);
        if (from.version() != version || from.settled())
            throw new Overtaken("The case has changed since you opened it. Nothing of yours was done.");
        var all = alerts.of(id);
        var one = all.stream()
                .filter(it -> it.id() == alert)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("There is no such alert in this case."));
        if (all.size() == 1) throw new IllegalArgumentException("It is the only alert of this case.");
        long fresh = folding.open(one, at);
        store.put(alert, fresh);
        store.addEntry(id, at, by.id(), "split", "made case %d of: %s".formatted(fresh, one.words()), null);
        store.addEntry(fresh, at, by.id(), "split", "made this a case of its own, out of case " + id, null);
        folding.measure(store.lock(id), at);
        var severity = folding.measure(store.lock(fresh), at);
        if (one.up()) events.publishEvent(new CaseTurned(fresh, severity, at));
        tellPages();
        return fresh;
    }

    /** The case of which one is a part. */
    @Transactional(readOnly = true)
    public Optional<Long> partOf(long id) {
        return joined.whole(id);
    }

    /** An open case that another may be a part of. */
    public record Choice(long id, String words) {}

    /** Those that began nearest to it first. */
    @Transactional(readOnly = true)
    public List<Choice> choices(WorkCase one) {
        return alerts.openTrouble().cases().stream()
                .filter(it -> it.id() != one.id())
                .sorted(Comparator.comparing(
                        it -> Duration.between(it.openedAt(), one.openedAt()).abs()))
                .limit(MOST_CHOICES)
                .map(it -> new Choice(it.id(), "%d, %s".formatted(it.id(), it.headline())))
                .toList();
    }

    private void tellPages() {
        live.changed("cases");
        live.changed("now");
    }
}
