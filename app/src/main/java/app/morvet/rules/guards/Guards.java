package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Headline;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Projection;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import app.morvet.sources.readings.Measure;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.ToIntFunction;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** The standing guards: looked up, put into words, and changed, each change a version. */
@Service
public class Guards {
    /** Another node may have changed them. */
    private static final Duration REMEMBERED = Duration.ofSeconds(5);

    private static final int MOST_REMEMBERED = 10_000;

    /** Somebody else changed the guard in between. */
    public static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        Overtaken() {
            super(
                    "Somebody else changed this guard while you were editing it. Nothing was saved; your sentence stands below. Load the guard again to see theirs.");
        }
    }

    /** A combination stands on the guard that is to be deleted. */
    public static final class StoodOn extends RuntimeException {
        private static final long serialVersionUID = 1;

        StoodOn(String by) {
            super("\"" + by + "\" is made of this guard. Take it out there first.");
        }
    }

    private final GuardStore store;
    /** The notice that a guard was made, changed or deleted. */
    static final String CHANGED = "guards";

    private final Estate estate;
    private final Matching matching;
    private final Audit audit;
    private final Notices notices;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    /** Guards that were asked for lately. What is read while one is changed is forgotten again when that is committed. */
    private final Cache<Long, StoredGuard> known = Caffeine.newBuilder()
            .maximumSize(MOST_REMEMBERED)
            .expireAfterWrite(REMEMBERED)
            .build();

    Guards(
            GuardStore store,
            Estate estate,
            Matching matching,
            Audit audit,
            Notices notices,
            Clock clock,
            ApplicationEventPublisher events) {
        this.store = store;
        this.estate = estate;
        this.matching = matching;
        this.audit = audit;
        this.notices = notices;
        this.clock = clock;
        this.events = events;
        notices.hear(CHANGED, none -> known.invalidateAll());
    }

    public List<StoredGuard> all() {
        return store.all();
    }

    /** Deleted ones too. It is asked for with every alert, so what was read is remembered for a while. */
    public StoredGuard byId(long id) {
        return known.get(id, none -> store.byId(id)
                .orElseThrow(() -> new IllegalArgumentException("There is no guard " + id + ".")));
    }

    /** What one asks for is as it is, and not as it is remembered: before it is changed, and after. */
    private StoredGuard asItIs(long id) {
        return store.byId(id).orElseThrow(() -> new IllegalArgumentException("There is no guard " + id + "."));
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMPLETION, fallbackExecution = true)
    void on(GuardChanged seen) {
        known.invalidateAll();
    }

    private void changed(long guard) {
        known.invalidateAll();
        notices.tell(CHANGED);
        events.publishEvent(new GuardChanged(guard));
    }

    /** By id, deleted ones too. */
    public Map<Long, StoredGuard> byIds(Collection<Long> ids) {
        return store.byIds(ids).stream().collect(Collectors.toMap(StoredGuard::id, Function.identity()));
    }

    public String sentence(StoredGuard guard) {
        return sentence(guard.rule(), guard.watch());
    }

    public String sentence(Guard rule, Watch watch) {
        var measure = matching.measure(watch.measure());
        return GuardSentence.of(
                rule,
                new GuardSentence.Naming(
                        measure.map(Measure::words).orElse(watch.measure().replace('_', ' ')),
                        measure.map(Measure::unitWords).orElse(""),
                        watch.words(estate::nameOf),
                        id -> store.byId(id).map(StoredGuard::name).orElse("guard " + id)));
    }

    /** The unit in which a guard's own value is told; empty where it has none. */
    public String unit(StoredGuard guard) {
        var unit = matching.measure(guard.watch().measure())
                .map(Measure::unitWords)
                .orElse("");
        return GuardSentence.unit(guard.rule(), unit);
    }

    /** The series that a guard would stand over now. */
    public List<Subject> matches(Guard rule, Watch watch) {
        return matching.of(rule, watch, id -> store.byId(id).orElse(null));
    }

    /** How many series guards stand over, for who asks for many of them: what there is of each measure is looked up once. */
    ToIntFunction<StoredGuard> counting() {
        var all = new HashMap<String, List<Subject>>();
        var counts = new HashMap<Watch, Integer>();
        return guard -> guard.rule() instanceof CombinationGuard
                ? matches(guard.rule(), guard.watch()).size()
                : counts.computeIfAbsent(
                        guard.watch(), watch -> (int) all.computeIfAbsent(watch.measure(), matching::all).stream()
                                .filter(one -> watch.matches(one.facts()))
                                .count());
    }

    /** What is wrong, in one line. */
    String headline(StoredGuard guard, Subject subject, Severity level, double value, @Nullable Projection seen) {
        var measure = subject.series().measure();
        if (guard.rule() instanceof CombinationGuard) {
            return guard.name() + " on " + subject.component().name()
                    + (value > 0.5 ? "" : Double.isNaN(value) ? ", not known at the moment" : ", no longer");
        }
        return Headline.of(
                guard.rule(),
                new Headline.Told(
                        measure.name(), measure.words(), measure.unitWords(), subject.name(), level, value, seen));
    }

    /** Where the trouble that a guard tells of may have begun: the start of the window that is judged at an instant. */
    public Instant windowStart(long guard, Instant at) {
        return byId(guard).rule() instanceof LimitGuard limit ? limit.window().openStart(at) : at;
    }

    /** The team that owns what a guard finds, where the guard says so itself. */
    public Optional<Estate.Team> owner(long guard) {
        return store.byId(guard).map(StoredGuard::owner).flatMap(estate::team);
    }

    @Transactional
    public long add(StoredGuard guard, Person by) {
        check(guard);
        long id = store.add(guard, clock.instant(), by.id());
        audit.record(by, "guard made", "guard " + id, null, describe(asItIs(id)));
        changed(id);
        return id;
    }

    /** Changes a guard to what is given, where its version is still the one given. */
    @Transactional
    public void change(StoredGuard guard, Person by) {
        change(guard, "", by);
    }

    /** The same with the reason for it, which stays with the version. */
    @Transactional
    public void change(StoredGuard guard, String why, Person by) {
        check(guard);
        var before = asItIs(guard.id());
        if (!store.change(guard, why, clock.instant(), by.id())) throw new Overtaken();
        audit.record(by, "guard changed", "guard " + guard.id(), describe(before), describe(asItIs(guard.id())));
        changed(guard.id());
    }

    /** Takes a guard away; it stays in the record, and its alerts end. */
    @Transactional
    public void delete(long id, int version, Person by) {
        for (var other : store.all()) {
            if (other.rule() instanceof CombinationGuard combination
                    && combination.members().contains(id)) throw new StoodOn(other.name());
        }
        var before = asItIs(id);
        if (!store.delete(id, version, clock.instant(), by.id())) throw new Overtaken();
        audit.record(by, "guard deleted", "guard " + id, describe(before), null);
        changed(id);
    }

    private void check(StoredGuard guard) {
        if (!(guard.rule() instanceof CombinationGuard combination)) return;
        for (long member : combination.members()) {
            var found = store.byId(member).filter(one -> !one.deleted());
            if (found.isEmpty()) throw new IllegalArgumentException("there is no guard " + member + " to combine");
            if (found.get().rule() instanceof CombinationGuard)
                throw new IllegalArgumentException(
                        "\"" + found.get().name() + "\" is itself a combination; combine its members instead");
        }
    }

    private String describe(StoredGuard guard) {
        var owner = guard.owner() == null
                ? ""
                : estate.team(guard.owner())
                        .map(team -> " Owned by " + team.name() + ".")
                        .orElse("");
        return guard.name() + (guard.active() ? ": " : " (off): ") + sentence(guard) + owner;
    }

    /** For what is set up by the application itself. */
    public long set(String name, boolean active, Watch watch, Guard rule, String fixNote) {
        long id = store.add(new StoredGuard(0, name, active, watch, rule, fixNote, null, 1), clock.instant(), null);
        changed(id);
        return id;
    }

    /** Where a trend's series was heading, seen from an instant. */
    static @Nullable Projection projection(TrendGuard guard, app.morvet.core.readings.Past past, Instant at) {
        long grid = guard.grid().toSeconds();
        return Projection.of(past, Instant.ofEpochSecond(Math.floorDiv(at.getEpochSecond(), grid) * grid), guard);
    }
}
