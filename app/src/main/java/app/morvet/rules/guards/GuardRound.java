package app.morvet.rules.guards;

import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.core.guard.GuardState;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import app.morvet.ground.base.PastRound;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.nodes.Notices;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import com.github.benmanes.caffeine.cache.Ticker;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BinaryOperator;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Evaluates all guards, live: whenever readings have come in, and again and again for what time alone changes. One thread,
 * so that the rings and states need no locks; intake only puts what it stored into a queue.
 *
 * <p>Event time leads. A series is judged up to its newest reading, and without readings up to a grace ago: one cadence of
 * its feed, or {@link Judging#GRACE} for what is counted as it happens. So a reading which arrives a little late is still judged
 * at its own time. The members of a combination are judged up to one instant together, so that it never has to wait for
 * what one of them will say of a time that has passed. What a crash takes from the rings is in
 * the store, and the states there are never ahead of what was told.
 */
@Component
@Order(1)
public class GuardRound extends Rounds implements PastRound {
    /** From one round to the next at least: what many feeds tell within a second is judged in a few rounds. */
    private static final Duration BREATH = Duration.ofMillis(500);
    /** What a feed tells in one page after the other is judged together, if none is longer in coming. */
    private static final Duration QUIET = Duration.ofMillis(100);

    private static final int QUIETS_A_BREATH = 4;
    /** What another node has stored and died before it told of is heard of so much later, or with what arrives next. */
    private static final Duration HEARD_ANYWAY = Duration.ofSeconds(10);

    private static final Duration SAVED_EVERY = Duration.ofMinutes(1);
    /** Divides evenly among two to six nodes. */
    private static final int PARTS = 60;
    /** What falls into so many parts is read together: few nodes hold like many parts, and those next to each other. */
    private static final int PARTS_A_SLICE = 5;

    private static final BinaryOperator<Duration> LONGER = BinaryOperator.maxBy(Comparator.naturalOrder());
    private static final BinaryOperator<Instant> EARLIER = BinaryOperator.minBy(Comparator.naturalOrder());

    private final GuardStore store;
    private final Guards guards;
    private final Matching matching;
    private final Matched matched;
    private final Histories histories;
    private final SeriesBook book;
    private final AlertDesk alerts;
    private final SetAside aside;
    private final Arrivals arrivals;
    private final Leases.Share share;
    private final TransactionTemplate transaction;
    private final Clock clock;

    private final SeriesRings rings;
    private final Map<GuardStore.Key, Post> posts = new HashMap<>();
    private final Turns turns = new Turns();
    private Function<Series, Past> pasts;
    private final Learned learned = new Learned(Ticker.systemTicker());
    private Watches watches = Watches.NONE;
    private volatile boolean watchesStale = true;
    private Leases.Held held;
    private Arrivals.@Nullable Place heardTo;
    /** The slices of what is watched here; all of them while that is being found out. */
    private volatile long wanted = Slice.ALL;

    private volatile boolean told = true;
    private boolean statesUnread = true;
    private boolean warm;

    GuardRound(
            GuardStore store,
            Guards guards,
            Matching matching,
            Histories histories,
            SeriesBook book,
            AlertDesk alerts,
            SetAside aside,
            Arrivals arrivals,
            Leases leases,
            Notices notices,
            TransactionTemplate transaction,
            Clock clock) {
        super(
                "guard-round",
                new Undone("Guards are not judged", "Guards are judged late", "/guards"),
                Turns.LONGEST_PAUSE);
        this.store = store;
        this.guards = guards;
        this.matching = matching;
        this.matched = new Matched(matching);
        this.histories = histories;
        this.book = book;
        this.alerts = alerts;
        this.aside = aside;
        this.transaction = transaction;
        this.clock = clock;
        this.pasts = histories::of;
        this.rings = new SeriesRings(histories);
        this.arrivals = arrivals;
        this.share = leases.share("guards", PARTS);
        this.held = share.all();
        share.toBeDealt(this::wake);
        arrivals.hear(this::arrived, this::sliceOf);
        // Those who keep what is looked at then have been told before: they asked to hear of it earlier.
        for (var changed : List.of(Estate.CHANGED, SeriesBook.ADDED, Guards.CHANGED))
            notices.hearOthers(changed, this::changed);
    }

    private long sliceOf(long component) {
        return 1L << share.partOf(Dealing.of(component)) / PARTS_A_SLICE;
    }

    private void arrived(long slices) {
        if ((slices & wanted) == 0) return;
        told = true;
        wake();
    }

    @EventListener(SeriesBook.SeriesAdded.class)
    void changed() {
        watchesStale = true;
        wake();
    }

    /** Once others see it: a round that looked sooner would stand over what was before, and never look again. */
    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMPLETION, fallbackExecution = true)
    void on(Estate.EstateChanged changed) {
        changed();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(GuardChanged changed) {
        changed();
    }

    @Override
    public synchronized void start() {
        if (!isRunning()) warm = false;
        super.start();
    }

    @Override
    protected Duration pause() {
        return turns.pause(clock.instant());
    }

    @Override
    protected boolean round() throws InterruptedException {
        try {
            var now = share.held();
            if (now.none()) warm = false;
            if (now.none()) return false;
            if (!now.equals(held)) dealtAnew(now);
            long begun = System.nanoTime();
            boolean woken = told;
            if (woken) gather(QUIET, QUIETS_A_BREATH);
            boolean heardAll = warm && heard();
            if (!heardAll) {
                startAfresh();
                warm = true;
            }
            boolean judged = round(clock.instant(), !heardAll);
            if (judged || woken) Thread.sleep(BREATH.minusNanos(System.nanoTime() - begun));
            return false;
        } catch (Leases.Lost lost) {
            // Others do it; what is left is held still, and nothing of the round is kept.
            forget();
            throw lost;
        } catch (RuntimeException failed) {
            // The store is away or refused: nothing of the round is kept, and the next one does it again.
            warm = false;
            throw failed;
        }
    }

    @Override
    public Duration step() {
        return Duration.ofMinutes(5);
    }

    @Override
    public PastRound.Walk walk(Instant from, Instant to) {
        if (isRunning()) throw new IllegalStateException("rounds are running");
        held = share.all();
        startAfresh();
        refresh(from);
        var all = new HashMap<Long, Readings>();
        for (var series : rings.watched())
            all.put(series.id(), histories.between(series, from.minus(Duration.ofDays(90)), to.plusSeconds(1)));
        pasts = series -> all.getOrDefault(series.id(), Readings.NONE);
        rings.fillFrom(all, from);
        return new Going(all, to);
    }

    private final class Going implements PastRound.Walk {
        private final Map<Long, Readings> all;
        private final Instant to;

        Going(Map<Long, Readings> all, Instant to) {
            this.all = all;
            this.to = to;
        }

        @Override
        public void goTo(Instant now) {
            // Nobody starts again in the middle of the past, so only what changed need be saved.
            for (var post : posts.values()) if (post.savedAt != null) post.savedAt = Instant.MAX.minus(SAVED_EVERY);
            rings.feedUpTo(all, now);
            round(now, true);
        }

        @Override
        public void end() {
            posts.values().forEach(one -> one.savedAt = null);
            rings.feedUpTo(all, to);
            round(to, true);
            pasts = histories::of;
            startAfresh();
        }
    }

    private void startAfresh() {
        heardTo = arrivals.now();
        forget();
        rings.clear();
    }

    /** Other parts than before are judged here: the states of all are read again, and the rings of those that came. */
    private void dealtAnew(Leases.Held now) {
        held = now;
        forget();
    }

    private void forget() {
        posts.clear();
        turns.clear();
        learned.forget();
        watches = Watches.NONE;
        watchesStale = true;
        statesUnread = true;
    }

    /** Takes in what has arrived; tells whether that is all of it. */
    private boolean heard() {
        if (heardTo == null) return false;
        if (!told && System.nanoTime() - heardTo.nanos() < HEARD_ANYWAY.toNanos()) return true;
        // Before it is looked: what comes meanwhile is told of anew.
        told = false;
        var some = arrivals.since(heardTo, wanted);
        if (some == null) return false;
        some.all().forEach(one -> rings.take(one, book));
        heardTo = some.upTo();
        return true;
    }

    /**
     * Tells whether anything was due.
     *
     * @param all whether to look at all that is watched, not just at what is due
     */
    private boolean round(Instant now, boolean all) {
        var silenced = watches.silenced();
        boolean anew = watchesStale;
        if (anew) refresh(now);
        var due = turns.due(watches, all || anew ? null : rings.news(), now);
        if (due.isEmpty() && !anew) return false;
        var gone = new ArrayList<GuardStore.Key>();
        var telling = new AlertTelling(watches, guards, pasts);
        if (anew) {
            telling.silenced(silenced, now);
            leave(now, gone, telling);
        }
        var judging = new Judging(watches, pasts, learned, aside);
        var found = judging.of(due, now);
        turns.looked(due, watches.parts().size(), now, one -> judging.still(one, now));
        telling.of(found);
        keep(found, gone, telling, now);
        rings.forget(all || anew, now);
        return true;
    }

    /** A guard that no longer stands over a series ends its alert there. */
    private void leave(Instant now, List<GuardStore.Key> gone, AlertTelling telling) {
        posts.forEach((key, post) -> {
            if (watches.parts().containsKey(key)) return;
            gone.add(key);
            if (!post.isUp()) return;
            var series = matching.subject(key.series());
            var guard = store.byId(key.guard());
            if (series.isPresent() && guard.isPresent())
                telling.left(Watches.Watching.left(guard.get(), series.get()), post.state, now);
        });
    }

    /** What is found becomes what is remembered, here and in the store; where the store refuses it, all that is remembered here is forgotten. */
    private void keep(List<Judging.Found> found, List<GuardStore.Key> gone, AlertTelling telling, Instant now) {
        var moves = telling.moves();
        var keys = new ArrayList<GuardStore.Key>();
        var states = new ArrayList<GuardState>();
        var parts = new BitSet(PARTS);
        for (var one : found) {
            var post = one.watching().post();
            post.state = one.step().state();
            if (!worthSaving(one.before(), post.state, post.savedAt)) continue;
            post.savedAt = now;
            keys.add(post.key);
            states.add(post.state);
            parts.set(post.part);
        }
        gone.forEach(key -> parts.set(partOf(key)));
        if (keys.isEmpty() && gone.isEmpty() && !telling.changed()) return;
        transaction.executeWithoutResult(status -> {
            held.sure(parts.stream().boxed().toList());
            store.keep(keys, states);
            gone.forEach(store::forget);
            alerts.moved(moves);
        });
        gone.forEach(posts::remove);
    }

    private static boolean worthSaving(GuardState before, GuardState after, @Nullable Instant saved) {
        if (saved == null || saved.plus(SAVED_EVERY).isBefore(after.evaluatedTo())) return true;
        return !after.saysTheSameAs(before);
    }

    private void refresh(Instant now) {
        watchesStale = false;
        // What comes once the past of a series has been read, and before it is known to be wanted, must not be missed.
        wanted = Slice.ALL;
        aside.clear();
        var before = watches.parts();
        watches = Watches.of(store.all(), matching, matched.now(), held, key -> posts.computeIfAbsent(key, Post::new));
        boolean moved = watches.parts().entrySet().stream()
                .anyMatch(one ->
                        before.containsKey(one.getKey()) && !one.getValue().equals(before.get(one.getKey())));
        if (statesUnread || moved) readStates();
        var reaches = new HashMap<Series, Duration>();
        var judgedTo = new HashMap<Series, Instant>();
        for (var watching : watches.all().values()) {
            var series = watching.subject().series();
            var reach = watching.guard().rule().reach();
            reaches.merge(series, reach, LONGER);
            if (watching.ceiling() != null) reaches.merge(watching.ceiling(), reach, LONGER);
            var state = watching.post().state;
            if (state != null) judgedTo.merge(series, state.evaluatedTo(), EARLIER);
        }
        rings.watch(reaches, judgedTo, now);
        rings.lay(watches.all().values());
        wanted = rings.watched().stream()
                .mapToLong(one -> sliceOf(one.component()))
                .reduce(0, (one, other) -> one | other);
    }

    /** The states of what is watched here, and of what is watched nowhere any more and fell to this node. */
    private void readStates() {
        statesUnread = false;
        posts.keySet().removeIf(key -> watches.parts().containsKey(key) && !held.has(partOf(key)));
        store.states().forEach((key, state) -> {
            if (!held.has(partOf(key))) return;
            var post = posts.computeIfAbsent(key, Post::new);
            if (post.state == null) post.state = state;
        });
    }

    private int partOf(GuardStore.Key key) {
        var part = watches.parts().get(key);
        return part != null
                ? part
                : held.partOf(Dealing.of(
                        book.series(key.series()).map(Series::component).orElse(0L)));
    }
}
