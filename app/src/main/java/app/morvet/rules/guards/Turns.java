package app.morvet.rules.guards;

import app.morvet.rules.guards.Watches.Watching;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
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

    private static final int LONGEST_BETWEEN_SECONDS = 15;

    private static final Duration SHORTEST_PAUSE = Duration.ofSeconds(1);
    /** Clocks may be set. */
    static final Duration LONGEST_PAUSE = Duration.ofSeconds(3);

    private final TreeMap<Long, List<Watching>> waiting = new TreeMap<>();
    private long round;

    /**
     * Those that are due now.
     *
     * @param news what has new readings, some of it perhaps twice; null to look at all, as after what is watched has changed
     */
    Collection<Watching> due(Watches watches, @Nullable Collection<Watching> news, Instant now) {
        if (news == null) {
            clear();
            return watches.all().values();
        }
        round++;
        var due = new ArrayList<Watching>();
        for (var one : news) add(one, watches, due);
        while (!waiting.isEmpty() && waiting.firstKey() <= now.getEpochSecond()) {
            long second = waiting.firstKey();
            for (var one : waiting.remove(second)) {
                var post = one.post();
                if (post.waitsAt != second) continue;
                post.waitsAt = Post.NOWHERE;
                if (post.turn > now.getEpochSecond()) await(one);
                else add(one, watches, due);
            }
        }
        return due;
    }

    private void add(Watching one, Watches watches, List<Watching> due) {
        addOnce(one, due);
        watches.tiedWith(one).forEach(other -> addOnce(other, due));
    }

    private void addOnce(Watching one, List<Watching> due) {
        if (one.post().dueIn == round) return;
        one.post().dueIn = round;
        due.add(one);
    }

    /**
     * Some have been looked at: they have another turn.
     *
     * @param all   all that is watched, on this node and others
     * @param still until when no time changes what is found of one of them
     */
    void looked(Collection<Watching> some, int all, Instant now, Function<Watching, Instant> still) {
        long soonest = now.getEpochSecond() + Math.min(all / LOOKED_AT_A_SECOND, LONGEST_BETWEEN_SECONDS);
        for (var one : some) {
            var post = one.post();
            var until = still.apply(one);
            post.turn = Math.max(soonest, until.getEpochSecond() + (until.getNano() > 0 ? 1 : 0));
            if (post.turn < post.waitsAt) await(one);
        }
    }

    private void await(Watching one) {
        var post = one.post();
        post.waitsAt = post.turn;
        waiting.computeIfAbsent(post.turn, none -> new ArrayList<>()).add(one);
    }

    /** How long nothing need be looked at unless there is news. */
    Duration pause(Instant now) {
        if (waiting.isEmpty()) return LONGEST_PAUSE;
        long seconds = waiting.firstKey() - now.getEpochSecond();
        return Duration.ofSeconds(Math.clamp(seconds, SHORTEST_PAUSE.toSeconds(), LONGEST_PAUSE.toSeconds()));
    }

    void clear() {
        waiting.values().forEach(some -> some.forEach(one -> one.post().waitsAt = Post.NOWHERE));
        waiting.clear();
    }
}
