package app.morvet.rules.guards;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.ground.base.Snapshot;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The recent readings of the series that guards watch, as far back as those guards look; no more is kept in memory. */
class SeriesRings {
    /** A little more than a guard looks back, since evaluation stands behind the clock. */
    private static final Duration MORE = Duration.ofMinutes(10);

    private static final ReadingRing NONE = new ReadingRing();

    private static final int READ_AT_ONCE = 500;

    private static final class Kept {
        final Series series;
        final ReadingRing ring = new ReadingRing();
        Duration reach = Duration.ZERO;
        int fed;
        /** What was seen when its past was read: that is in it already. */
        final Snapshot seen;

        Kept(Series series, Snapshot seen) {
            this.series = series;
            this.seen = seen;
        }
    }

    private final Histories histories;
    private final Map<Long, Kept> kept = new HashMap<>();

    SeriesRings(Histories histories) {
        this.histories = histories;
    }

    void clear() {
        kept.clear();
    }

    Collection<Series> watched() {
        return kept.values().stream().map(one -> one.series).toList();
    }

    /**
     * Says how far back each series is looked at; what is missing is read from the store. To be called in a transaction of
     * repeatable reads.
     *
     * @param seen     what that transaction sees
     * @param judgedTo up to where guards have judged a series: after an outage they go on from there
     */
    void watch(Snapshot seen, Map<Series, Duration> reaches, Map<Series, Instant> judgedTo, Instant now) {
        kept.keySet().retainAll(reaches.keySet().stream().map(Series::id).collect(Collectors.toSet()));
        var missing = new HashMap<Duration, List<Series>>();
        reaches.forEach((series, reach) -> {
            var one = kept.get(series.id());
            if (one == null || one.reach.compareTo(reach) < 0)
                missing.computeIfAbsent(reach, none -> new ArrayList<>()).add(series);
        });
        missing.forEach((reach, all) -> {
            for (int from = 0; from < all.size(); from += READ_AT_ONCE)
                read(all.subList(from, Math.min(all.size(), from + READ_AT_ONCE)), reach, seen, judgedTo, now);
        });
    }

    private void read(List<Series> some, Duration reach, Snapshot seen, Map<Series, Instant> judgedTo, Instant now) {
        var judged = some.stream().map(one -> judgedTo.getOrDefault(one, now)).reduce(now, SeriesRings::earlier);
        var stored = histories.between(some, judged.minus(reach).minus(MORE), now.plus(MORE));
        for (var series : some) {
            var fresh = new Kept(series, seen);
            fresh.reach = reach;
            var readings = stored.getOrDefault(series.id(), Readings.NONE);
            for (int i = 0; i < readings.size(); i++) fresh.ring.add(readings.times()[i], readings.values()[i]);
            kept.put(series.id(), fresh);
        }
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }

    /** Takes in what has arrived of what is watched; adds to {@code fresh} the series that have news. */
    void take(Arrivals.Arrived one, SeriesBook book, Set<Long> fresh) {
        for (int i = 0; i < one.of().length; i++) {
            long at = one.at()[i];
            if (!one.failures()) {
                if (add(one.of()[i], at, one.values()[i])) fresh.add(one.of()[i]);
                continue;
            }
            book.find(one.of()[i], Measure.FAILED_MESSAGES, Map.of()).ifPresent(series -> {
                if (failed(series.id(), at, one.transaction())) fresh.add(series.id());
            });
        }
    }

    /** Adds a reading; tells whether it is watched and news. A series has one reading at an instant. */
    private boolean add(long series, long at, double value) {
        var one = kept.get(series);
        if (one == null || one.ring.has(at)) return false;
        one.ring.add(at, value);
        return true;
    }

    /** Adds a failed message; tells whether that is watched and news. Many may fail at one instant. */
    private boolean failed(long series, long at, long transaction) {
        var one = kept.get(series);
        if (one == null || one.seen.saw(transaction)) return false;
        one.ring.add(at, 1);
        return true;
    }

    /** What is kept of a series; an empty one where it is not watched. */
    ReadingRing of(long series) {
        var one = kept.get(series);
        return one == null ? NONE : one.ring;
    }

    Readings since(long series, Instant at) {
        return of(series).since(Micros.of(at));
    }

    Instant newest(long series) {
        return of(series).newest();
    }

    /**
     * Forgets what nobody looks back to any more. To be called when what has come was judged: a feed may tell hours at once.
     *
     * @param some series that had news; null for all
     */
    void forget(@Nullable Set<Long> some, Instant now) {
        var these = some == null ? kept.keySet() : some;
        for (long series : these) {
            var one = kept.get(series);
            if (one != null) one.ring.forgetBefore(now.minus(one.reach).minus(MORE));
        }
    }

    /** Begins to go through the past: nothing later than {@code from} is known yet. */
    void fillFrom(Map<Long, Readings> all, Instant from) {
        kept.replaceAll((series, one) -> {
            var empty = new Kept(one.series, one.seen);
            empty.reach = one.reach;
            return empty;
        });
        feedUpTo(all, from);
    }

    void feedUpTo(Map<Long, Readings> all, Instant to) {
        long micros = Micros.of(to);
        kept.values().forEach(one -> {
            var readings = all.getOrDefault(one.series.id(), Readings.NONE);
            while (one.fed < readings.size() && readings.times()[one.fed] <= micros) {
                one.ring.add(readings.times()[one.fed], readings.values()[one.fed]);
                one.fed++;
            }
        });
    }
}
