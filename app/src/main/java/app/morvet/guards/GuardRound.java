package app.morvet.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Folding;
import app.morvet.core.guard.GuardEvaluator;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.Heard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import app.morvet.estate.Estate;
import app.morvet.messages.FailuresRecorded;
import app.morvet.readings.Measure;
import app.morvet.readings.ReadingsRecorded;
import app.morvet.readings.Series;
import app.morvet.readings.SeriesBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Evaluates all guards, live: whenever readings have come in, and again and again for what time alone changes. One thread,
 * so that the rings and states need no locks; intake only puts what it stored into a queue.
 *
 * <p>Event time leads. A series is judged up to its newest reading, and without readings up to a grace ago: one cadence of
 * its feed, or {@link #GRACE} for what is counted as it happens. So a reading which arrives a little late is still judged
 * at its own time. The members of a combination are judged up to one instant together, so that it never has to wait for
 * what one of them will say of a time that has passed. What a crash takes from the rings is in
 * the store, and the states there are never ahead of what was told.
 */
@Component
public class GuardRound implements SmartLifecycle {
    static final Duration GRACE = Duration.ofSeconds(5);
    private static final Duration SAVED_EVERY = Duration.ofMinutes(1);
    /** So many watches are looked at each second for what time alone changes; all of them within a quarter minute. */
    private static final int LOOKED_AT_A_SECOND = 3000;

    private static final int LONGEST_ROUND_TRIP = 15;
    private static final Logger log = LoggerFactory.getLogger(GuardRound.class);

    /** One guard over one series, or a combination over one component. */
    private record Watching(
            StandingGuard guard, Subject subject, String group, @Nullable Series ceiling, Duration cadence) {
        GuardStore.Key key() {
            return new GuardStore.Key(guard.id(), subject.series().id());
        }
    }

    private record GroupKey(long guard, String group) {}

    /**
     * All that is watched, and how it hangs together.
     *
     * @param tied by component, the members of combinations, which are judged together
     */
    private record Watches(
            Map<GuardStore.Key, Watching> all,
            Map<GroupKey, List<GuardStore.Key>> groups,
            Map<Long, Map<Long, GuardStore.Key>> byGuardAndComponent,
            Map<Long, List<Watching>> tied,
            Set<Long> silenced) {
        static final Watches NONE = new Watches(Map.of(), Map.of(), Map.of(), Map.of(), Set.of());
    }

    private final GuardStore store;
    private final Guards guards;
    private final Matching matching;
    private final Histories histories;
    private final SeriesBook book;
    private final ApplicationEventPublisher events;
    private final TransactionTemplate transaction;
    private final Clock clock;
    /** Something that happened, and when it was put into the queue. */
    private record Arrival(Object what, long nanos) {}

    private final LinkedBlockingQueue<Arrival> arrived = new LinkedBlockingQueue<>();

    private final SeriesRings rings;
    private final Map<GuardStore.Key, GuardState> states = new HashMap<>();
    private final Map<GuardStore.Key, Instant> savedAt = new HashMap<>();
    private final Map<GuardStore.Key, Instant> lookedAt = new HashMap<>();
    private Function<Series, Past> pasts;
    private Watches watches = Watches.NONE;
    private volatile boolean watchesStale = true;
    private volatile boolean running;
    private Thread thread = new Thread();

    GuardRound(
            GuardStore store,
            Guards guards,
            Matching matching,
            Histories histories,
            SeriesBook book,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Clock clock) {
        this.store = store;
        this.guards = guards;
        this.matching = matching;
        this.histories = histories;
        this.book = book;
        this.events = events;
        this.transaction = transaction;
        this.clock = clock;
        this.pasts = histories::of;
        this.rings = new SeriesRings(histories);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(FailuresRecorded recorded) {
        arrive(recorded);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(ReadingsRecorded recorded) {
        arrive(recorded);
    }

    private void arrive(Object what) {
        if (running) arrived.add(new Arrival(what, System.nanoTime()));
    }

    @EventListener
    void on(Estate.EstateChanged changed) {
        watchesStale = true;
    }

    @EventListener
    void on(SeriesBook.SeriesAdded added) {
        watchesStale = true;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(GuardChanged changed) {
        watchesStale = true;
        arrive(changed);
    }

    @Override
    public synchronized void start() {
        if (running) return;
        running = true;
        thread = Thread.ofPlatform().name("guard-round").daemon().start(this::rounds);
    }

    @Override
    public void stop() {
        running = false;
        thread.interrupt();
        try {
            thread.join(5000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    /**
     * Goes through past time step by step, as live evaluation would have; only while no rounds are running.
     *
     * @param then told of each step when it is done
     */
    public void goThrough(Instant from, Instant to, Duration step, Consumer<Instant> then) {
        if (running) throw new IllegalStateException("rounds are running");
        startAfresh();
        refresh(from);
        var all = new HashMap<Long, Readings>();
        for (var series : rings.watched())
            all.put(series.id(), histories.between(series, from.minus(Duration.ofDays(90)), to.plusSeconds(1)));
        pasts = series -> all.getOrDefault(series.id(), Readings.NONE);
        rings.fillFrom(all, from);
        for (var now = from; !now.isAfter(to); now = now.plus(step)) {
            // Nobody starts again in the middle of the past, so only what changed need be saved.
            savedAt.replaceAll((key, saved) -> Instant.MAX.minus(SAVED_EVERY));
            rings.feedUpTo(all, now);
            round(now, null);
            then.accept(now);
        }
        savedAt.clear();
        rings.feedUpTo(all, to);
        round(to, null);
        pasts = histories::of;
        startAfresh();
    }

    private void rounds() {
        boolean warm = false;
        while (running) {
            try {
                if (!warm) {
                    startAfresh();
                    refresh(clock.instant());
                    warm = true;
                }
                var fresh = waitForReadings();
                round(clock.instant(), fresh);
            } catch (InterruptedException stop) {
                return;
            } catch (RuntimeException failed) {
                // The store is away or refused: nothing of the round is kept, and the next one does it again.
                if (!running) return;
                log.error("a round of guards failed and will be tried again", failed);
                warm = false;
                pause();
            }
        }
    }

    private void startAfresh() {
        arrived.clear();
        states.clear();
        states.putAll(store.states());
        savedAt.clear();
        lookedAt.clear();
        rings.clear();
        watches = Watches.NONE;
        watchesStale = true;
    }

    /** Takes in what has arrived; tells of which series. */
    private Set<Long> waitForReadings() throws InterruptedException {
        var fresh = new HashSet<Long>();
        var first = arrived.poll(1, TimeUnit.SECONDS);
        if (first == null) return fresh;
        take(first, fresh);
        var more = new ArrayList<Arrival>();
        arrived.drainTo(more);
        more.forEach(one -> take(one, fresh));
        return fresh;
    }

    private void take(Arrival one, Set<Long> fresh) {
        switch (one.what()) {
            case ReadingsRecorded(var series, var times, var values) -> {
                for (int i = 0; i < series.length; i++)
                    if (rings.add(series[i], times[i], values[i], one.nanos())) fresh.add(series[i]);
            }
            case FailuresRecorded recorded ->
                recorded.failures().forEach(failure -> book.find(failure.component(), Measure.FAILED_MESSAGES, Map.of())
                        .ifPresent(series -> {
                            if (rings.add(series.id(), Micros.of(failure.at()), 1, one.nanos())) fresh.add(series.id());
                        }));
            default -> {
                // a guard changed: the round looks at the guards anyhow
            }
        }
    }

    /** What one guard found on one series in this round. */
    private record Found(Watching watching, GuardState before, GuardEvaluator.Step step) {}

    /** @param fresh the series that have new readings; null to look at all */
    private void round(Instant now, @Nullable Set<Long> fresh) {
        var moved = new ArrayList<GuardsMoved.Moved>();
        var counted = new ArrayList<GuardsMoved.Counted>();
        var gone = new ArrayList<GuardStore.Key>();
        var next = new LinkedHashMap<GuardStore.Key, GuardState>();
        if (watchesStale) {
            var before = watches;
            refresh(now);
            tellSilenced(before.silenced(), now, moved);
            fresh = null;
            leave(now, gone, moved);
        }
        var found = new ArrayList<Found>();
        for (var watching : due(now, fresh)) {
            if (watching.guard().rule() instanceof CombinationGuard) continue;
            found.add(found(watching, now));
        }
        found.addAll(combined(List.copyOf(found)));
        var changed = new LinkedHashMap<GroupKey, List<Folding.Of<Watching>>>();
        for (var one : found) {
            var key = one.watching().key();
            next.put(key, one.step().state());
            lookedAt.put(key, now);
            for (var change : one.step().transitions())
                changed.computeIfAbsent(group(one.watching()), none -> new ArrayList<>())
                        .add(new Folding.Of<>(one.watching(), change));
        }
        changed.forEach((group, happened) -> fold(group, happened, moved));
        for (var one : found) count(one, next, counted);
        keep(next, gone, moved, counted, now);
        rings.forget(now);
    }

    private static GroupKey group(Watching watching) {
        return new GroupKey(watching.guard().id(), watching.group());
    }

    /** Those with new readings, and in turn the others, for what time alone changes. */
    private Iterable<Watching> due(Instant now, @Nullable Set<Long> fresh) {
        if (fresh == null) return watches.all().values();
        long pause = Math.clamp(watches.all().size() / LOOKED_AT_A_SECOND, 0, LONGEST_ROUND_TRIP);
        var due = new LinkedHashSet<Watching>();
        var seen = fresh;
        watches.all().forEach((key, watching) -> {
            var looked = lookedAt.get(key);
            boolean news = seen.contains(key.series())
                    || watching.ceiling() != null
                            && seen.contains(watching.ceiling().id());
            if (!news && looked != null && looked.plusSeconds(pause).isAfter(now)) return;
            due.add(watching);
            if (isTied(watching)) due.addAll(tiedWith(watching));
        });
        return due;
    }

    private List<Watching> tiedWith(Watching watching) {
        return watches.tied().getOrDefault(watching.subject().component().id(), List.of());
    }

    private boolean isTied(Watching watching) {
        return tiedWith(watching).contains(watching);
    }

    private Found found(Watching watching, Instant now) {
        var series = watching.subject().series();
        var before = states.getOrDefault(watching.key(), GuardState.startingAt(horizon(watching, now)));
        var until = horizon(watching, now);
        var rule = watching.guard().rule();
        var ceiling = watching.ceiling();
        var heard = new Heard(
                rings.since(
                        series.id(), before.evaluatedTo().minus(rule.reach()).minusSeconds(1)),
                ceiling == null
                        ? Readings.NONE
                        : rings.since(ceiling.id(), before.evaluatedTo().minus(rule.reach())),
                pasts.apply(series),
                series.measure().sort(),
                watching.cadence());
        return new Found(watching, before, GuardEvaluator.step(rule, before, heard, until));
    }

    /** The combinations whose members were judged in this round. */
    private List<Found> combined(List<Found> judged) {
        var steps = new HashMap<GuardStore.Key, GuardEvaluator.Step>();
        judged.forEach(one -> steps.put(one.watching().key(), one.step()));
        var found = new ArrayList<Found>();
        watches.all().forEach((key, watching) -> {
            if (!(watching.guard().rule() instanceof CombinationGuard combination)) return;
            var members = new ArrayList<GuardEvaluator.Answers>();
            @Nullable Instant until = null;
            for (long member : combination.members()) {
                var of = watches.byGuardAndComponent()
                        .getOrDefault(member, Map.of())
                        .get(watching.subject().component().id());
                var step = of == null ? null : steps.get(of);
                members.add(step == null ? GuardEvaluator.Answers.UNKNOWN : step.answers());
                if (step != null && (until == null || step.state().evaluatedTo().isBefore(until)))
                    until = step.state().evaluatedTo();
            }
            if (until == null) return;
            var before = states.getOrDefault(key, GuardState.startingAt(until));
            found.add(new Found(watching, before, GuardEvaluator.combine(combination, before, members, until)));
        });
        return found;
    }

    private Instant horizon(Watching watching, Instant now) {
        if (!isTied(watching)) return ownHorizon(watching, now);
        return tiedWith(watching).stream()
                .map(one -> ownHorizon(one, now))
                .min(Comparator.naturalOrder())
                .orElseThrow();
    }

    private Instant ownHorizon(Watching watching, Instant now) {
        var series = watching.subject().series();
        boolean counted = series.measure().sort() == app.morvet.core.readings.Sort.COUNT;
        var settled = now.minus(counted || watching.cadence().compareTo(GRACE) < 0 ? GRACE : watching.cadence());
        var newest = rings.newest(series.id());
        if (newest.isBefore(settled)) return settled;
        return newest.isAfter(now) ? now : newest;
    }

    private void fold(GroupKey group, List<Folding.Of<Watching>> happened, List<GuardsMoved.Moved> moved) {
        happened.sort(Comparator.comparing(one -> one.transition().at()));
        var levels = new HashMap<Watching, Severity>();
        for (var key : watches.groups().getOrDefault(group, List.of())) {
            var state = states.get(key);
            var watching = watches.all().get(key);
            if (watching != null && state != null && state.level() != null) levels.put(watching, state.level());
        }
        if (watches.silenced().contains(group.guard())) return;
        for (var told : Folding.fold(levels, happened)) moved.add(moved(told.member(), told.transition()));
    }

    private GuardsMoved.Moved moved(Watching watching, Transition change) {
        var level = change.level() == null ? Severity.WARNING : change.level();
        return new GuardsMoved.Moved(
                watching.guard().id(),
                watching.group(),
                watching.subject().component().id(),
                watching.subject().series().id(),
                change,
                words(watching, level, change.value(), change.at()));
    }

    private String words(Watching watching, Severity level, double value, Instant at) {
        var seen = watching.guard().rule() instanceof TrendGuard trend
                ? Guards.projection(trend, pasts.apply(watching.subject().series()), at)
                : null;
        return guards.headline(watching.guard(), watching.subject(), level, value, seen);
    }

    /** An alert that is up tells its value: that of its worst series, which may be another than the one that changed. */
    private void count(Found one, Map<GuardStore.Key, GuardState> next, List<GuardsMoved.Counted> counted) {
        var before = one.before();
        var after = one.step().state();
        if (before.level() == null && after.level() == null) return;
        if (after.level() != null && Double.compare(after.value(), before.value()) == 0) return;
        var group = group(one.watching());
        if (watches.silenced().contains(group.guard())) return;
        var limits = one.watching().guard().rule().limits();
        GuardStore.Key worst = null;
        GuardState says = null;
        for (var key : watches.groups().getOrDefault(group, List.of())) {
            var state = next.getOrDefault(key, states.get(key));
            if (state == null || state.level() == null) continue;
            if (says != null && limits.worse(says.value(), state.value()) != state.value()) continue;
            worst = key;
            says = state;
        }
        if (worst == null || says.level() == null) return;
        boolean tellsAlready = !worst.equals(one.watching().key())
                && (before.level() == null || limits.worse(before.value(), says.value()) == says.value());
        if (tellsAlready) return;
        var watching = Objects.requireNonNull(watches.all().get(worst));
        counted.add(new GuardsMoved.Counted(
                group.guard(),
                group.group(),
                watching.subject().series().id(),
                says.evaluatedTo(),
                says.value(),
                says.worst(),
                words(watching, says.level(), says.value(), says.evaluatedTo())));
    }

    /** A guard that no longer stands over a series ends its alert there. */
    private void leave(Instant now, List<GuardStore.Key> gone, List<GuardsMoved.Moved> moved) {
        for (var entry : states.entrySet()) {
            if (watches.all().containsKey(entry.getKey())) continue;
            gone.add(entry.getKey());
            var state = entry.getValue();
            if (state.level() == null) continue;
            var series = matching.subject(entry.getKey().series());
            var guard = store.byId(entry.getKey().guard());
            if (series.isEmpty() || guard.isEmpty()) continue;
            var watching = new Watching(
                    guard.get(),
                    series.get(),
                    series.get().group(guard.get().rule().terms().grouping()),
                    null,
                    Duration.ZERO);
            boolean others = watches.groups().getOrDefault(group(watching), List.of()).stream()
                    .map(states::get)
                    .anyMatch(other -> other != null && other.level() != null);
            var cleared = new Transition(Transition.Kind.CLEARED, now, null, state.value(), state.worst());
            if (!others) moved.add(moved(watching, cleared));
        }
    }

    /** Members of a combination that keep silent from now on end their alerts; those that speak again raise them. */
    private void tellSilenced(Set<Long> before, Instant now, List<GuardsMoved.Moved> moved) {
        if (before.equals(watches.silenced())) return;
        watches.groups().forEach((group, keys) -> {
            boolean was = before.contains(group.guard());
            boolean is = watches.silenced().contains(group.guard());
            if (was == is) return;
            keys.stream()
                    .filter(key -> states.get(key) != null && states.get(key).level() != null)
                    .max(Comparator.comparing(
                            key -> Objects.requireNonNull(states.get(key).level())))
                    .ifPresent(key -> {
                        var state = states.get(key);
                        var change = new Transition(
                                is ? Transition.Kind.CLEARED : Transition.Kind.RAISED,
                                now,
                                is ? null : state.level(),
                                state.value(),
                                state.worst());
                        moved.add(moved(Objects.requireNonNull(watches.all().get(key)), change));
                    });
        });
    }

    private void keep(
            Map<GuardStore.Key, GuardState> next,
            List<GuardStore.Key> gone,
            List<GuardsMoved.Moved> moved,
            List<GuardsMoved.Counted> counted,
            Instant now) {
        var toSave = new LinkedHashMap<GuardStore.Key, GuardState>();
        next.forEach((key, state) -> {
            if (worthSaving(states.get(key), state, savedAt.get(key))) toSave.put(key, state);
        });
        if (!toSave.isEmpty() || !gone.isEmpty() || !moved.isEmpty()) {
            moved.sort(Comparator.comparing(one -> one.transition().at()));
            transaction.executeWithoutResult(status -> {
                store.keep(toSave);
                gone.forEach(store::forget);
                if (!moved.isEmpty() || !counted.isEmpty())
                    events.publishEvent(new GuardsMoved(List.copyOf(moved), List.copyOf(counted)));
            });
        }
        toSave.keySet().forEach(key -> savedAt.put(key, now));
        gone.forEach(key -> {
            savedAt.remove(key);
            states.remove(key);
            lookedAt.remove(key);
        });
        states.putAll(next);
    }

    private static boolean worthSaving(@Nullable GuardState before, GuardState after, @Nullable Instant saved) {
        if (before == null || saved == null) return true;
        if (saved.plus(SAVED_EVERY).isBefore(after.evaluatedTo())) return true;
        return before.level() != after.level()
                || before.known() != after.known()
                || after.level() != null && Double.compare(before.value(), after.value()) != 0
                || !Objects.equals(before.calmSince(), after.calmSince())
                || !Objects.equals(before.clearSince(), after.clearSince());
    }

    private void refresh(Instant now) {
        watchesStale = false;
        var all = new LinkedHashMap<GuardStore.Key, Watching>();
        var groups = new HashMap<GroupKey, List<GuardStore.Key>>();
        var byGuard = new HashMap<Long, Map<Long, GuardStore.Key>>();
        var silenced = new HashSet<Long>();
        var reaches = new HashMap<Series, Duration>();
        var judgedTo = new HashMap<Series, Instant>();
        var standing = store.all();
        var byId = new HashMap<Long, StandingGuard>();
        standing.forEach(guard -> byId.put(guard.id(), guard));
        for (var guard : standing) {
            if (!guard.active()) continue;
            if (guard.rule() instanceof CombinationGuard it && it.silent()) silenced.addAll(it.members());
            for (var subject : matching.of(guard.rule(), guard.watch(), byId::get)) {
                var ceiling = ceiling(guard, subject);
                var watching = new Watching(
                        guard,
                        subject,
                        subject.group(guard.rule().terms().grouping()),
                        ceiling,
                        matching.cadence(subject.series()));
                all.put(watching.key(), watching);
                groups.computeIfAbsent(group(watching), none -> new ArrayList<>())
                        .add(watching.key());
                byGuard.computeIfAbsent(guard.id(), none -> new HashMap<>())
                        .putIfAbsent(subject.component().id(), watching.key());
                reaches.merge(subject.series(), guard.rule().reach(), GuardRound::longer);
                var state = states.get(watching.key());
                if (state != null) judgedTo.merge(subject.series(), state.evaluatedTo(), GuardRound::earlier);
                if (ceiling != null) reaches.merge(ceiling, guard.rule().reach(), GuardRound::longer);
            }
        }
        watches = new Watches(all, groups, byGuard, tied(standing, all), silenced);
        rings.watch(reaches, judgedTo, now);
    }

    private static Map<Long, List<Watching>> tied(List<StandingGuard> standing, Map<GuardStore.Key, Watching> all) {
        var members = new HashSet<Long>();
        for (var guard : standing)
            if (guard.active() && guard.rule() instanceof CombinationGuard it) members.addAll(it.members());
        var tied = new HashMap<Long, List<Watching>>();
        for (var watching : all.values())
            if (members.contains(watching.guard().id()))
                tied.computeIfAbsent(watching.subject().component().id(), none -> new ArrayList<>())
                        .add(watching);
        return tied;
    }

    private @Nullable Series ceiling(StandingGuard guard, Subject subject) {
        return guard.rule() instanceof LimitGuard limit
                        && limit.amount().ceiling() instanceof Amount.Ceiling.Measured(var measure)
                ? matching.ceiling(subject.series(), measure).orElse(null)
                : null;
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }

    private static Duration longer(Duration one, Duration other) {
        return one.compareTo(other) > 0 ? one : other;
    }

    private static void pause() {
        try {
            Thread.sleep(1000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }
}
