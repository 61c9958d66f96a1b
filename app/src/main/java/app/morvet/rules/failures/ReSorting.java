package app.morvet.rules.failures;

import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessagesDealt;
import app.morvet.sources.sorting.RuleList;
import app.morvet.sources.sorting.SortingRules;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sorts what is open anew after the rules were changed; what was dealt with stays as it was. Goes over it from the oldest on,
 * some at a time, and sorting again what is sorted already changes nothing, so it can be begun again at any moment.
 */
@Component
class ReSorting implements Errand {
    static final String NAME = "re-sorting";
    private static final int A_TIME = 500;
    private static final int MOST_LOOKED_AT = 20_000;

    /** So many would go from one rule to another. */
    record Move(String from, String to, long count) {}

    /** @param whole whether all that is open was looked at */
    record Preview(List<Move> moves, long looked, boolean whole) {}

    private final StoredFailures store;
    private final SortingRules rules;
    private final Errands errands;
    private final TransactionTemplate transaction;
    private final ApplicationEventPublisher events;
    private final Live live;
    private final Times times;

    ReSorting(
            StoredFailures store,
            SortingRules rules,
            Errands errands,
            TransactionTemplate transaction,
            ApplicationEventPublisher events,
            Live live,
            Times times) {
        this.store = store;
        this.rules = rules;
        this.errands = errands;
        this.transaction = transaction;
        this.events = events;
        this.live = live;
        this.times = times;
    }

    /** What sorting what is open by a list would move. */
    Preview preview(RuleList then) {
        var moves = new LinkedHashMap<String, Long>();
        long looked = 0;
        var at = start();
        List<StoredFailures.Stored> some;
        do {
            some = store.open(at, A_TIME);
            for (var one : some) {
                var to = then.sort(one.candidate()).by();
                var rule = one.rule();
                if (rule == null || rule != to.id())
                    moves.merge((rule == null ? "" : rules.byId(rule).name()) + "\n" + to.name(), 1L, Long::sum);
            }
            looked += some.size();
            if (!some.isEmpty()) at = some.getLast().id();
        } while (some.size() == A_TIME && looked < MOST_LOOKED_AT);
        return new Preview(
                moves.entrySet().stream()
                        .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                        .map(entry -> new Move(
                                entry.getKey().split("\n", 2)[0], entry.getKey().split("\n", 2)[1], entry.getValue()))
                        .toList(),
                looked,
                some.size() < A_TIME);
    }

    private MessageId start() {
        return new MessageId(times.now().minus(Duration.ofDays(400)), 0);
    }

    /** Has it done soon. */
    void soon() {
        errands.at(times.now(), NAME, "all");
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String id) {
        var list = rules.fresh();
        var at = start();
        while (true) {
            var from = at;
            var some = Objects.requireNonNull(transaction.execute(status -> sortSome(list, from)));
            if (some.size() < A_TIME) break;
            at = some.getLast().id();
        }
        live.changed("messages");
        // Somebody may have changed the list again while this went on.
        return rules.fresh().version() == list.version() ? Optional.empty() : Optional.of(times.now());
    }

    private List<StoredFailures.Stored> sortSome(RuleList list, MessageId from) {
        var some = store.open(from, A_TIME);
        var ids = new ArrayList<MessageId>();
        var to = new ArrayList<Long>();
        var open = new ArrayList<Boolean>();
        for (var one : some) {
            var rule = list.sort(one.candidate()).by();
            if (Long.valueOf(rule.id()).equals(one.rule()) && rule.alerts()) continue;
            ids.add(one.id());
            to.add(rule.id());
            open.add(rule.alerts());
        }
        if (!ids.isEmpty()) {
            store.sorted(ids, to, open);
            events.publishEvent(new MessagesDealt());
        }
        return some;
    }
}
