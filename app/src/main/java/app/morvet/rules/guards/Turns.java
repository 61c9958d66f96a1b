package app.morvet.rules.guards;

import app.morvet.rules.guards.Watches.Watching;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What is due in a round: what has news, and in turn all else, for what time alone changes. A round pays for what is due in it,
 * not for all that is watched, however often it is woken; and what no time changes for a while has no turn until then, so what
 * tells its readings in time costs nothing between them.
 */
final class Turns {
    /** So many watches are looked at each second on all nodes for what time alone changes; all of them within a quarter minute. */
    private static final int LOOKED_AT_A_SECOND = 3000;

    private static final int LONGEST_PAUSE_SECONDS = 15;

    /** When the turn of one comes; seconds since 1970. */
    private static final class Turn {
        final Watching watching;
        long at;
        /** Where it waits: never later than its turn, mostly sooner, since a turn is put off by news without looking for it. */
        long waitsAt = Long.MAX_VALUE;

        Turn(Watching watching) {
            this.watching = watching;
        }
    }

    private final Map<GuardStore.Key, Turn> turns = new HashMap<>();
    private final TreeMap<Long, List<Turn>> waiting = new TreeMap<>();

    /**
     * Those that are due now.
     *
     * @param news the series that have new readings; null to look at all, as after what is watched has changed
     */
    Collection<Watching> due(Watches watches, @Nullable Set<Long> news, Instant now) {
        if (news == null) {
            clear();
            return watches.all().values();
        }
        var due = new LinkedHashMap<GuardStore.Key, Watching>();
        for (long series : news) for (var one : watches.over(series)) add(one, watches, due);
        while (!waiting.isEmpty() && waiting.firstKey() <= now.getEpochSecond()) {
            long second = waiting.firstKey();
            for (var turn : waiting.remove(second)) {
                if (turn.waitsAt != second) continue;
                turn.waitsAt = Long.MAX_VALUE;
                if (turn.at > now.getEpochSecond()) await(turn);
                else add(turn.watching, watches, due);
            }
        }
        return due.values();
    }

    private static void add(Watching one, Watches watches, Map<GuardStore.Key, Watching> due) {
        due.put(one.key(), one);
        watches.tiedWith(one).forEach(other -> due.put(other.key(), other));
    }

    /**
     * Some have been looked at: they have another turn.
     *
     * @param all   all that is watched, on this node and others
     * @param still until when no time changes what is found of one of them
     */
    void looked(Collection<Watching> some, int all, Instant now, Function<Watching, Instant> still) {
        long soonest = now.getEpochSecond() + Math.min(all / LOOKED_AT_A_SECOND, LONGEST_PAUSE_SECONDS);
        for (var watching : some) {
            var until = still.apply(watching);
            var turn = turns.computeIfAbsent(watching.key(), none -> new Turn(watching));
            turn.at = Math.max(soonest, until.getEpochSecond() + (until.getNano() > 0 ? 1 : 0));
            if (turn.at < turn.waitsAt) await(turn);
        }
    }

    private void await(Turn turn) {
        turn.waitsAt = turn.at;
        waiting.computeIfAbsent(turn.at, none -> new ArrayList<>()).add(turn);
    }

    void clear() {
        turns.clear();
        waiting.clear();
    }
}
