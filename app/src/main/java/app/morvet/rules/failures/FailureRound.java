package app.morvet.rules.failures;

import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Transition;
import app.morvet.ground.base.PastRound;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.nodes.Notices;
import app.morvet.sources.messages.FailuresRecorded;
import app.morvet.sources.messages.FailuresSoFar;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.messages.MessagesDealt;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes alerts of failed messages, live: one for each family on each interface, or as their rule folds, however many fail.
 * What is to be told stands in a queue that is written with the messages, and is taken out of it in the transaction that
 * tells it, so each is counted once, whatever dies in between. An alert clears when nothing has joined it for as long as
 * its rule folds, or when all of its messages are dealt with. On one node at a time.
 */
@Component
@Order(2)
public class FailureRound extends Rounds implements PastRound {
    private static final int A_TIME = 5000;
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(1);

    private static final String RECORDED = "failures";
    private static final String DEALT = "failures-dealt";

    private final FoldStore store;
    private final SortingRules rules;
    private final Families families;
    private final FailuresSoFar soFar;
    private final Estate estate;
    private final AlertDesk alerts;
    private final TransactionTemplate transaction;
    private final Leases.Share share;
    private final Notices notices;
    private final Clock clock;
    private Leases.Held held;
    private volatile boolean dealt = true;

    FailureRound(
            FoldStore store,
            SortingRules rules,
            Families families,
            FailuresSoFar soFar,
            Estate estate,
            AlertDesk alerts,
            TransactionTemplate transaction,
            Leases leases,
            Notices notices,
            Clock clock) {
        super(
                "failure-round",
                new Undone("Failed messages raise no alerts", "Failed messages raise alerts late", "/messages"),
                LOOKED_AT_EVERY);
        this.store = store;
        this.rules = rules;
        this.families = families;
        this.soFar = soFar;
        this.estate = estate;
        this.alerts = alerts;
        this.transaction = transaction;
        this.clock = clock;
        this.notices = notices;
        this.share = leases.share("failures", 1);
        this.held = share.all();
        notices.hearOthers(RECORDED, this::wake);
        notices.hearOthers(DEALT, this::dealt);
    }

    @EventListener
    void tell(FailuresRecorded recorded) {
        notices.tell(RECORDED);
    }

    @EventListener
    void tell(MessagesDealt some) {
        notices.tell(DEALT);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(FailuresRecorded recorded) {
        wake();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(MessagesDealt some) {
        dealt();
    }

    private void dealt() {
        dealt = true;
        wake();
    }

    @Override
    protected boolean round() {
        var before = held;
        held = share.held();
        if (held.none()) return false;
        if (!held.equals(before)) {
            dealt = true;
            soFar.missedSome();
        }
        // Events may be a little ahead of this clock, so no time keeps them waiting.
        return round(clock.instant(), clock.instant().plus(Duration.ofDays(1))) == A_TIME;
    }

    @Override
    public Duration step() {
        return Duration.ofMinutes(5);
    }

    @Override
    public Walk walk(Instant from, Instant to) {
        if (isRunning()) throw new IllegalStateException("rounds are running");
        held = share.all();
        return new Going();
    }

    /** Through the long times in which nothing failed and no fold is open nobody need look. */
    private final class Going implements Walk {
        private @Nullable Instant next = firstUntold();
        private boolean folds = true;

        @Override
        public void goTo(Instant now) {
            boolean fails = next != null && !next.isAfter(now);
            if (!fails && !folds) return;
            while (round(now, now) == A_TIME) {
                // until all of it is told
            }
            if (fails) next = firstUntold();
            folds = !store.all().isEmpty();
        }
    }

    private int round(Instant now, Instant upTo) {
        boolean look = dealt;
        dealt = false;
        try {
            return java.util.Objects.requireNonNull(transaction.execute(status -> {
                held.sure();
                var moves = new ArrayList<Move>();
                var says = new ArrayList<Move>();
                var untold = store.take(upTo, A_TIME);
                for (var one : untold) if (!one.known()) soFar.heard(one.component(), one.family(), one.at());
                byFold(untold).forEach((fold, some) -> tell(fold, some, moves, says));
                ease(now, look, moves);
                moves.addAll(says);
                alerts.moved(moves);
                return untold.size();
            }));
        } catch (RuntimeException failed) {
            dealt = dealt || look;
            soFar.missedSome();
            throw failed;
        }
    }

    private record Key(StoredRule rule, String fold) {}

    private LinkedHashMap<Key, List<FoldStore.Untold>> byFold(List<FoldStore.Untold> untold) {
        var folds = new LinkedHashMap<Key, List<FoldStore.Untold>>();
        var took = new LinkedHashMap<Long, Instant>();
        for (var one : untold) {
            var rule = rules.byId(one.rule());
            took.merge(rule.id(), one.at(), (a, b) -> a.isAfter(b) ? a : b);
            if (!rule.alerts()) continue;
            var key = new Key(rule, rule.foldBy().key(one.component(), one.family(), one.businessKey()));
            folds.computeIfAbsent(key, none -> new ArrayList<>()).add(one);
        }
        took.forEach(rules::took);
        return folds;
    }

    private void tell(Key key, List<FoldStore.Untold> some, List<Move> moves, List<Move> says) {
        var fold = store.byKey(key.rule().id(), key.fold()).orElse(null);
        boolean raised = false;
        boolean grew = false;
        for (var one : some) {
            if (fold != null && !key.rule().foldFor().joins(fold.lastAt(), one.at())) {
                clear(fold, fold.lastAt().plus(key.rule().foldFor().length()), moves);
                fold = null;
            }
            if (fold == null) {
                fold = new FoldStore.Fold(
                        key.rule().id(), key.fold(), one.component(), one.family(), one.at(), one.at(), 1);
                store.put(fold);
                moves.add(raised(fold, key.rule(), one.at()));
                raised = true;
                continue;
            }
            var last = one.at().isAfter(fold.lastAt()) ? one.at() : fold.lastAt();
            fold = new FoldStore.Fold(
                    fold.rule(),
                    fold.key(),
                    fold.component(),
                    fold.family(),
                    fold.raisedAt(),
                    last,
                    fold.failures() + (one.repeat() ? 0 : 1));
            grew = true;
        }
        if (fold == null || !grew) return;
        store.put(fold);
        var level = key.rule().severity();
        says.add(move(
                fold, key.rule(), Transition.between(level, level, fold.lastAt(), fold.failures(), fold.failures())));
        // The first of a batch speaks for all of it.
        if (raised)
            moves.add(raised(fold, key.rule(), moves.removeLast().transition().at()));
    }

    private void ease(Instant now, boolean look, List<Move> moves) {
        for (var fold : store.all()) {
            var rule = rules.byId(fold.rule());
            if (rule.foldFor().over(fold.lastAt(), now)) clear(fold, now, moves);
        }
        if (look) store.dealtWith().forEach(fold -> clear(fold, now, moves));
    }

    private void clear(FoldStore.Fold fold, Instant at, List<Move> moves) {
        store.remove(fold);
        var rule = rules.byId(fold.rule());
        moves.add(move(fold, rule, Transition.between(rule.severity(), null, at, fold.failures(), fold.failures())));
    }

    private Move raised(FoldStore.Fold fold, StoredRule rule, Instant at) {
        return move(fold, rule, Transition.between(null, rule.severity(), at, fold.failures(), fold.failures()));
    }

    private Move move(FoldStore.Fold fold, StoredRule rule, Transition transition) {
        var scope =
                switch (rule.foldBy()) {
                    case RULE -> new MessageScope(null, null, rule.id());
                    case SHARED_FAMILY -> new MessageScope(null, fold.family(), null);
                    case FAMILY, BUSINESS_KEY -> new MessageScope(fold.component(), fold.family(), null);
                };
        var words = words(fold, rule);
        return new Move(
                RuleOrigins.origin(rule.id()),
                fold.key(),
                About.of(fold.component(), scope.topic()),
                fold.family(),
                transition,
                words,
                words,
                "");
    }

    /** {@code 412 failed on Booking settlement: Partner refuses the connection}. */
    private String words(FoldStore.Fold fold, StoredRule rule) {
        var where = rule.foldBy().everywhere()
                ? "over all interfaces"
                : "on " + estate.component(fold.component()).name();
        return "%,d failed %s: %s".formatted(fold.failures(), where, what(fold, rule));
    }

    private String what(FoldStore.Fold fold, StoredRule rule) {
        return rule.criteria().takesEverything() ? families.firstLineOf(fold.family()) : rule.name();
    }

    /** The first failure that waits to be told, or null. */
    public @Nullable Instant firstUntold() {
        return store.firstUntold().orElse(null);
    }
}
