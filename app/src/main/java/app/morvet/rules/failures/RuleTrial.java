package app.morvet.rules.failures;

import app.morvet.ground.page.Times;
import app.morvet.sources.sorting.RuleList;
import app.morvet.sources.sorting.StoredRule;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Tries a list of rules on stored failures, beside the list in force. */
@Component
class RuleTrial {
    private static final int MOST = 5000;
    private static final int SAMPLES = 8;
    private static final long KEPT_NANOS = 30_000_000_000L;

    /** So many that one rule takes now. */
    record From(String rule, long count) {}

    /**
     * What a rule would do.
     *
     * @param tried      how many stored failures it was tried on
     * @param takes      how many of them it takes
     * @param from       by which rules these are taken now, the most first
     * @param loses      how many of those that it takes now it would no longer take
     * @param leftBefore how many the last rule takes now
     * @param left       how many it would take then
     * @param stopped    how often the rule had to be stopped
     * @param takers     names of the earlier rules that take all that this one could; empty where it can be reached
     * @param never      whether its conditions can never hold together
     */
    record Outcome(
            int tried,
            long takes,
            List<From> from,
            long loses,
            long leftBefore,
            long left,
            long stopped,
            List<String> takers,
            boolean never,
            List<StoredFailures.Stored> samples,
            Instant since) {}

    private final StoredFailures store;
    private final Times times;
    private List<StoredFailures.Stored> kept = List.of();
    private long keptAt;

    RuleTrial(StoredFailures store, Times times) {
        this.store = store;
        this.times = times;
    }

    /** Somebody begins to edit: what failed until now is tried from here on. */
    synchronized void begin() {
        kept = List.of();
    }

    /** While somebody edits, the failures that are tried stay the same for half a minute. */
    private synchronized List<StoredFailures.Stored> stored() {
        if (kept.isEmpty() || System.nanoTime() - keptAt > KEPT_NANOS) {
            kept = store.latest(times.now().minus(StoredFailures.LOOKED_BACK), MOST);
            keptAt = System.nanoTime();
        }
        return kept;
    }

    /**
     * @param now  the list in force
     * @param then the list as it would be
     * @param rule place, in the second, of the rule that is looked at
     */
    Outcome of(RuleList now, RuleList then, int rule) {
        var from = new LinkedHashMap<String, Long>();
        var samples = new ArrayList<StoredFailures.Stored>();
        long takes = 0;
        long loses = 0;
        long leftBefore = 0;
        long left = 0;
        long stopped = 0;
        var looked = then.rules().get(rule);
        var tried = stored();
        for (var one : tried) {
            StoredRule before;
            StoredRule after;
            // One candidate at a time may be sorted, since it reads its payload once.
            synchronized (one) {
                before = now.sort(one.candidate()).by();
                var taken = then.sort(one.candidate());
                after = taken.by();
                if (taken.stopped().contains(looked)) stopped++;
            }
            if (before.criteria().takesEverything()) leftBefore++;
            if (after.criteria().takesEverything()) left++;
            if (after == looked) {
                takes++;
                if (samples.size() < SAMPLES) samples.add(one);
                from.merge(before.id() == looked.id() ? "" : before.name(), 1L, Long::sum);
            } else if (looked.id() != 0 && before.id() == looked.id()) {
                loses++;
            }
        }
        var reach = then.reach().get(rule);
        return new Outcome(
                tried.size(),
                takes,
                from.entrySet().stream()
                        .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                        .map(entry -> new From(entry.getKey(), entry.getValue()))
                        .toList(),
                loses,
                leftBefore,
                left,
                stopped,
                reach.takenBy().stream()
                        .map(place -> then.rules().get(place).name())
                        .toList(),
                reach.byItself(),
                samples,
                tried.isEmpty() ? times.now() : tried.getLast().id().at());
    }

    /** The place at which a new rule can take all that it could: before the first rule that takes some of its messages. */
    int place(RuleList now, StoredRule fresh) {
        int first = now.rules().size() - 1;
        for (var one : stored()) {
            synchronized (one) {
                if (!takes(fresh, one)) continue;
                int at = now.rules().indexOf(now.sort(one.candidate()).by());
                first = Math.min(first, at);
            }
        }
        return first;
    }

    private static boolean takes(StoredRule rule, StoredFailures.Stored one) {
        try {
            return rule.criteria().of(one.candidate()) == app.morvet.core.guard.Truth.TRUE;
        } catch (RuntimeException | StackOverflowError failed) {
            return false;
        }
    }
}
