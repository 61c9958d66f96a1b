package app.morvet.rules.guards;

import app.morvet.core.guard.GuardState;
import app.morvet.core.readings.ReadingRing;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A guard at its post: what is remembered of one guard over one series from one round to the next. All of it is in one place, for a
 * round goes past tens of thousands, and to look each thing up by itself took longer than to judge. Not thread-safe.
 */
final class Post {
    static final long NOWHERE = Long.MAX_VALUE;

    /** Of what is not there; nobody adds to it. */
    static final ReadingRing SILENT = new ReadingRing();

    final GuardStore.Key key;
    /** Into which part it falls while it is watched here. */
    int part;
    /** Null until it was judged. */
    @Nullable
    GuardState state;
    /** When that was last put into the store; null while it was not. */
    @Nullable
    Instant savedAt;
    /** The recent readings of its series, and of the series that a limit is a share of. */
    ReadingRing ring = SILENT;

    ReadingRing ceiling = SILENT;
    /** When its turn comes; seconds since 1970. */
    long turn;
    /** Where it waits: never later than its turn, mostly sooner, since a turn is put off by news without looking for it. */
    long waitsAt = NOWHERE;
    /** The last round that had it due. */
    long dueIn;

    Post(GuardStore.Key key) {
        this.key = key;
    }

    boolean isUp() {
        return state != null && state.level() != null;
    }
}
