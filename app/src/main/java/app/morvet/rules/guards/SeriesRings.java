package app.morvet.rules.guards;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.ground.base.Snapshot;
import app.morvet.rules.guards.Watches.Watching;
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
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The recent readings of the series that guards watch, as far back as those guards look; no more is kept in memory. */
class SeriesRings {
    /** A little more than a guard looks back, since evaluation stands behind the clock. */
    private static final Duration MORE = Duration.ofMinutes(10);

    private static final int READ_AT_ONCE = 500;
    private static final Snapshot NOTHING_SEEN = new Snapshot(0, 0, Set.of());

    private static final class Kept {
        final Series series;
        final ReadingRing ring = new ReadingRing();
        final Duration reach;
        /** What was seen when its failures were counted: those are in it already. */
        final Snapshot seen;
        /** What stands over it, or is a share of what it says. */
        final List<Watching> over = new ArrayList<>(1);

        boolean news;
        int fed;

        Kept(Series series, Duration reach, Snapshot seen) {
            this.series = series;
            this.reach = reach;
            this.seen = seen;
        }
    }

    private final Histories histories;
    private final Map<Long, Kept> kept = new HashMap<>();
    /** Of which something has come since it was last forgotten what nobody looks back to. */
    private final List<Kept> news = new ArrayList<>();

    SeriesRings(Histories histories) {
        this.histories = histories;
    }

    void clear() {
        kept.clear();
        news.clear();
    }

    Collection<Series> watched() {
        return kept.values().stream().map(one -> one.series).toList();
    }

    /**
     * Says how far back each series is looked at; what is missing is read from the store.
     *
     * @param judgedTo up to where guards have judged a series: after an outage they go on from there
     */
    void watch(Map<Series, Duration> reaches, Map<Series, Instant> judgedTo, Instant now) {
        kept.keySet().retainAll(reaches.keySet().stream().map(Series::id).collect(Collectors.toSet()));
        var measured = new HashMap<Duration, List<Series>>();
        var counted = new HashMap<Duration, List<Series>>();
        reaches.forEach((series, reach) -> {
            var one = kept.get(series.id());
            if (one != null && one.reach.compareTo(reach) >= 0) return;
            var missing = series.measure().countsFailures() ? counted : measured;
            missing.computeIfAbsent(reach, none -> new ArrayList<>()).add(series);
        });
        read(measured, NOTHING_SEEN, judgedTo, now);
        if (!counted.isEmpty()) histories.asOfOneMoment(seen -> read(counted, seen, judgedTo, now));
    }

    private void read(Map<Duration, List<Series>> missing, Snapshot seen, Map<Series, Instant> judgedTo, Instant now) {
        missing.forEach((reach, all) -> {
            for (int from = 0; from < all.size(); from += READ_AT_ONCE)
                read(all.subList(from, Math.min(all.size(), from + READ_AT_ONCE)), reach, seen, judgedTo, now);
        });
    }

    private void read(List<Series> some, Duration reach, Snapshot seen, Map<Series, Instant> judgedTo, Instant now) {
        var judged = some.stream().map(one -> judgedTo.getOrDefault(one, now)).reduce(now, SeriesRings::earlier);
        var stored = histories.between(some, judged.minus(reach).minus(MORE), now.plus(MORE));
        for (var series : some) {
            var fresh = new Kept(series, reach, seen);
            var readings = stored.getOrDefault(series.id(), Readings.NONE);
            for (int i = 0; i < readings.size(); i++) fresh.ring.add(readings.times()[i], readings.values()[i]);
            kept.put(series.id(), fresh);
        }
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }

    /** What is kept of a series is what guards over it look at. To be called whenever what is watched has changed. */
    void lay(Collection<Watching> all) {
        kept.values().forEach(one -> one.over.clear());
        for (var watching : all) {
            watching.post().ring = of(watching.subject().series(), watching);
            watching.post().ceiling = watching.ceiling() == null ? Post.SILENT : of(watching.ceiling(), watching);
        }
    }

    private ReadingRing of(Series series, Watching watching) {
        var one = Objects.requireNonNull(kept.get(series.id()));
        one.over.add(watching);
        return one.ring;
    }

    /** Takes in what has arrived of what is watched. */
    void take(Arrivals.Arrived one, SeriesBook book) {
        for (int i = 0; i < one.of().length; i++) {
            long at = one.at()[i];
            if (one.failures())
                book.find(one.of()[i], Measure.FAILED_MESSAGES, Map.of())
                        .ifPresent(series -> failed(kept.get(series.id()), at, one.transaction()));
            else add(kept.get(one.of()[i]), at, one.values()[i]);
        }
    }

    /** A series has one reading at an instant. */
    private void add(@Nullable Kept one, long at, double value) {
        if (one != null && !one.ring.has(at)) heard(one, at, value);
    }

    /** Many messages may fail at one instant. */
    private void failed(@Nullable Kept one, long at, long transaction) {
        if (one != null && !one.seen.saw(transaction)) heard(one, at, 1);
    }

    private void heard(Kept one, long at, double value) {
        one.ring.add(at, value);
        if (!one.news) news.add(one);
        one.news = true;
    }

    /** What has news: guards over series of which something has come, each series once. */
    List<Watching> news() {
        var over = new ArrayList<Watching>(news.size());
        news.forEach(one -> over.addAll(one.over));
        return over;
    }

    /**
     * Forgets what nobody looks back to any more. To be called when what has come was judged: a feed may tell hours at once.
     *
     * @param all whether all was judged, or what had news
     */
    void forget(boolean all, Instant now) {
        long latest = Micros.of(now.minus(MORE));
        for (var one : all ? kept.values() : news) one.ring.forgetBefore(latest - Micros.of(one.reach));
        news.forEach(one -> one.news = false);
        news.clear();
    }

    /** Begins to go through the past: nothing later than {@code from} is known yet. */
    void fillFrom(Map<Long, Readings> all, Instant from) {
        kept.values().forEach(one -> {
            one.ring.clear();
            one.fed = 0;
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
