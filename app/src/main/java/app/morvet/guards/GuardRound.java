package app.morvet.guards;

import app.morvet.core.alert.Transition;
import app.morvet.core.guard.CountRing;
import app.morvet.core.guard.GuardEvaluator;
import app.morvet.core.guard.GuardState;
import app.morvet.estate.Estate;
import app.morvet.messages.FailuresRecorded;
import app.morvet.messages.MessageStore;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
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
 * Evaluates all guards, live: whenever failures have come in, and once a second for what time alone changes. One thread,
 * so that the rings and states need no locks; intake only puts what it stored into a queue.
 *
 * <p>Event time leads. A subject is judged up to its newest reading, and without readings up to {@link #GRACE} ago, so
 * that a reading which arrives a little late is still judged at its own time. What a crash takes from the rings is in
 * the store, and the states there are never ahead of what was told.
 */
@Component
public class GuardRound implements SmartLifecycle {
    static final Duration GRACE = Duration.ofSeconds(5);
    private static final Duration WARM = Duration.ofDays(7).plusHours(2);
    private static final Duration SAVED_EVERY = Duration.ofMinutes(1);
    private static final Logger log = LoggerFactory.getLogger(GuardRound.class);

    private final GuardStore store;
    private final MessageStore messages;
    private final Estate estate;
    private final ApplicationEventPublisher events;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final LinkedBlockingQueue<List<FailuresRecorded.Failure>> arrived = new LinkedBlockingQueue<>();

    private final Map<Long, CountRing> rings = new HashMap<>();
    private final Map<GuardStore.Key, GuardState> states = new HashMap<>();
    private final Map<GuardStore.Key, Instant> savedAt = new HashMap<>();
    private Map<GuardStore.Key, StandingGuard> watches = Map.of();
    private volatile boolean watchesStale = true;
    private volatile boolean running;
    private Thread thread = new Thread();

    GuardRound(
            GuardStore store,
            MessageStore messages,
            Estate estate,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Clock clock) {
        this.store = store;
        this.messages = messages;
        this.estate = estate;
        this.events = events;
        this.transaction = transaction;
        this.clock = clock;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(FailuresRecorded recorded) {
        arrived.add(recorded.failures());
    }

    @EventListener
    void on(Estate.EstateChanged changed) {
        watchesStale = true;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(GuardChanged changed) {
        watchesStale = true;
        arrived.add(List.of());
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

    /**
     * Goes through past time step by step, as live evaluation would have; only while no rounds are running.
     *
     * @param then told of each step when it is done
     */
    public void goThrough(Instant from, Instant to, Duration step, Consumer<Instant> then) {
        if (running) throw new IllegalStateException("rounds are running");
        warmUp(from.minus(WARM));
        for (var now = from; !now.isAfter(to); now = now.plus(step)) {
            // Nobody starts again in the middle of the past, so only what changed need be saved.
            savedAt.replaceAll((key, saved) -> Instant.MAX.minus(SAVED_EVERY));
            round(now);
            then.accept(now);
        }
        savedAt.clear();
        round(to);
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    private void rounds() {
        boolean warm = false;
        while (running) {
            try {
                if (!warm) {
                    warmUp(clock.instant().minus(WARM));
                    warm = true;
                }
                waitForReadings();
                round(clock.instant());
            } catch (InterruptedException stop) {
                return;
            } catch (RuntimeException failed) {
                // The store is away or refused: nothing of the round is kept, and the next one does it again.
                if (!running) return;
                log.error("a round of guards failed and will be tried again", failed);
                pause();
            }
        }
    }

    private void warmUp(Instant since) {
        states.clear();
        states.putAll(store.states());
        rings.clear();
        arrived.clear();
        messages.failuresSince(since).forEach(this::take);
    }

    private void waitForReadings() throws InterruptedException {
        var first = arrived.poll(1, TimeUnit.SECONDS);
        if (first == null) return;
        first.forEach(this::take);
        var more = new ArrayList<List<FailuresRecorded.Failure>>();
        arrived.drainTo(more);
        more.forEach(batch -> batch.forEach(this::take));
    }

    private void take(FailuresRecorded.Failure failure) {
        rings.computeIfAbsent(failure.component(), none -> new CountRing()).add(failure.at(), 1);
    }

    private void round(Instant now) {
        var next = new HashMap<GuardStore.Key, GuardState>();
        var moved = new ArrayList<GuardsMoved.Moved>();
        var counted = new ArrayList<GuardsMoved.Counted>();
        if (watchesStale) {
            watchesStale = false;
            watches = watches();
        }
        watches.forEach((key, guard) -> {
            var ring = rings.computeIfAbsent(key.component(), none -> new CountRing());
            var before = states.getOrDefault(key, GuardState.startingAt(now.minus(GRACE)));
            var step = GuardEvaluator.step(guard.rule(), before, ring, horizon(ring, now));
            step.transitions()
                    .forEach(change -> moved.add(new GuardsMoved.Moved(key.guard(), key.component(), change)));
            var after = step.state();
            if (after.level() != null && after.value() != before.value()) {
                counted.add(new GuardsMoved.Counted(key.guard(), key.component(), after.value(), after.worst()));
            }
            next.put(key, after);
        });
        var gone = states.keySet().stream()
                .filter(key -> !watches.containsKey(key))
                .toList();
        gone.forEach(key -> over(key, now).ifPresent(moved::add));
        keep(next, gone, moved, counted, now);
        rings.values().forEach(ring -> ring.forget(now, WARM));
    }

    /** A guard that no longer stands over a subject ends its alert there. */
    private java.util.Optional<GuardsMoved.Moved> over(GuardStore.Key key, Instant now) {
        var state = states.get(key);
        if (state == null || state.level() == null) return java.util.Optional.empty();
        var cleared = new Transition(Transition.Kind.CLEARED, now, null, state.value(), state.worst());
        return java.util.Optional.of(new GuardsMoved.Moved(key.guard(), key.component(), cleared));
    }

    private static Instant horizon(CountRing ring, Instant now) {
        var settled = now.minus(GRACE);
        var newest = ring.newest();
        if (newest.isBefore(settled)) return settled;
        return newest.isAfter(now) ? now : newest;
    }

    private void keep(
            Map<GuardStore.Key, GuardState> next,
            List<GuardStore.Key> gone,
            List<GuardsMoved.Moved> moved,
            List<GuardsMoved.Counted> counted,
            Instant now) {
        var toSave = next.entrySet().stream()
                .filter(entry -> worthSaving(states.get(entry.getKey()), entry.getValue(), savedAt.get(entry.getKey())))
                .toList();
        if (!toSave.isEmpty() || !gone.isEmpty()) {
            moved.sort(Comparator.comparing(one -> one.transition().at()));
            transaction.executeWithoutResult(status -> {
                toSave.forEach(entry -> store.keep(entry.getKey(), entry.getValue()));
                gone.forEach(store::forget);
                if (!moved.isEmpty() || !counted.isEmpty())
                    events.publishEvent(new GuardsMoved(List.copyOf(moved), List.copyOf(counted)));
            });
        }
        toSave.forEach(entry -> savedAt.put(entry.getKey(), now));
        gone.forEach(savedAt::remove);
        states.clear();
        states.putAll(next);
    }

    private static boolean worthSaving(
            @org.jspecify.annotations.Nullable GuardState before,
            GuardState after,
            @org.jspecify.annotations.Nullable Instant saved) {
        if (before == null || saved == null) return true;
        if (saved.plus(SAVED_EVERY).isBefore(after.evaluatedTo())) return true;
        return before.level() != after.level()
                || before.value() != after.value()
                || !java.util.Objects.equals(before.calmSince(), after.calmSince())
                || !java.util.Objects.equals(before.clearSince(), after.clearSince());
    }

    private Map<GuardStore.Key, StandingGuard> watches() {
        var found = new HashMap<GuardStore.Key, StandingGuard>();
        var subjects = new HashSet<>(estate.interfaces());
        for (var guard : store.all()) {
            if (!guard.active()) continue;
            for (var subject : subjects) {
                var application = estate.applicationOf(subject)
                        .map(Estate.Application::key)
                        .orElse("");
                if (guard.watched().matches(subject.key(), application))
                    found.put(new GuardStore.Key(guard.id(), subject.id()), guard);
            }
        }
        return found;
    }

    private static void pause() {
        try {
            Thread.sleep(1000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }
}
