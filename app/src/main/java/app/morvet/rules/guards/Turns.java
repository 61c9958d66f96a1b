package app.morvet.rules.guards;

import app.morvet.rules.guards.Watches.Watching;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is due in a round: what has news, and in turn all else, for what time alone changes. A round pays for what is due in it,
 * not for all that is watched, however often it is woken.
 */
final class Turns {
    /** So many watches are looked at each second on all nodes for what time alone changes; all of them within a quarter minute. */
    private static final int LOOKED_AT_A_SECOND = 3000;

    private static final int LONGEST_PAUSE_SECONDS = 15;

    /** When each was looked at last, the one that waits longest first. */
    private final LinkedHashMap<GuardStore.Key, Instant> lookedAt = new LinkedHashMap<>();

    /**
     * Those that are due now. They are looked at with that.
     *
     * @param news the series that have new readings; null to look at all
     */
    Collection<Watching> due(Watches watches, @Nullable Set<Long> news, Instant now) {
        var due = news == null ? watches.all() : some(watches, news, turnCame(watches, now));
        if (news == null) lookedAt.clear();
        due.keySet().forEach(key -> lookedAt.putLast(key, now));
        return due.values();
    }

    private Map<GuardStore.Key, Watching> some(Watches watches, Set<Long> news, Instant turnCame) {
        var due = new LinkedHashMap<GuardStore.Key, Watching>();
        for (long series : news) for (var one : watches.over(series)) add(one, watches, due);
        for (var looked : lookedAt.entrySet()) {
            if (looked.getValue().isAfter(turnCame)) break;
            var one = watches.all().get(looked.getKey());
            if (one != null) add(one, watches, due);
        }
        return due;
    }

    private static void add(Watching one, Watches watches, Map<GuardStore.Key, Watching> due) {
        due.put(one.key(), one);
        watches.tiedWith(one).forEach(other -> due.put(other.key(), other));
    }

    private static Instant turnCame(Watches watches, Instant now) {
        return now.minusSeconds(Math.clamp(watches.parts().size() / LOOKED_AT_A_SECOND, 0, LONGEST_PAUSE_SECONDS));
    }

    void clear() {
        lookedAt.clear();
    }
}
