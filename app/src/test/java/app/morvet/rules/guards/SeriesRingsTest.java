package app.morvet.rules.guards;

import static app.morvet.rules.guards.SomeWatches.over;
import static app.morvet.rules.guards.SomeWatches.series;
import static app.morvet.rules.guards.SomeWatches.watching;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import app.morvet.ground.base.Snapshot;
import app.morvet.rules.guards.Watches.Watching;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What is kept of what a series told. */
class SeriesRingsTest {
    private static final Instant NOW = Instant.parse("2027-03-18T03:20:00Z");
    private static final Duration REACH = Duration.ofMinutes(5);

    private final Map<Long, Readings> stored = new HashMap<>();
    private final List<Long> readAsOfOneMoment = new ArrayList<>();
    private final SeriesRings rings = new SeriesRings(new Histories(null, null, null, null, null) {
        private boolean moment;

        @Override
        void asOfOneMoment(Consumer<Snapshot> reading) {
            moment = true;
            reading.accept(Snapshot.parse("10:10:"));
            moment = false;
        }

        @Override
        Map<Long, Readings> between(Collection<Series> some, Instant from, Instant to) {
            if (moment) some.forEach(one -> readAsOfOneMoment.add(one.id()));
            return stored;
        }
    });

    private void watch(Watching... all) {
        var reaches = new HashMap<Series, Duration>();
        for (var one : all) {
            reaches.put(one.subject().series(), REACH);
            if (one.ceiling() != null) reaches.put(one.ceiling(), REACH);
        }
        rings.watch(reaches, Map.of(), NOW);
        rings.lay(List.of(all));
    }

    private void arrived(long series, Instant... at) {
        var times = Stream.of(at).mapToLong(Micros::of).toArray();
        rings.take(
                new Arrivals.Arrived(
                        12, false, LongStream.of(times).map(each -> series).toArray(), times, new double[times.length]),
                null);
    }

    /** A feed may tell an hour at once, of which a guard looks back five minutes: all of it is there to be judged. */
    @Test
    void anHourThatIsToldAtOnceIsKeptUntilItWasJudged() {
        var one = over(1);
        watch(one);
        arrived(
                1,
                IntStream.rangeClosed(-60, 0)
                        .mapToObj(minute -> NOW.plus(Duration.ofMinutes(minute)))
                        .toArray(Instant[]::new));
        assertThat(rings.news()).containsExactly(one);
        assertThat(one.post().ring.size()).isEqualTo(61);
        rings.forget(false, NOW);
        assertThat(one.post().ring.size())
                .as("a quarter of an hour, and the one before it")
                .isEqualTo(17);
        assertThat(rings.news()).as("judged").isEmpty();
    }

    @Test
    void whatHasNoNewsIsForgottenOnlyWhereAllWasJudged() {
        var one = over(1);
        watch(one, over(2));
        arrived(1, NOW.minusSeconds(7200), NOW.minusSeconds(3600), NOW.minusSeconds(60));
        rings.forget(false, NOW.minusSeconds(7200));
        arrived(2, NOW);
        rings.forget(false, NOW);
        assertThat(one.post().ring.size()).isEqualTo(3);
        rings.forget(true, NOW);
        assertThat(one.post().ring.size()).isEqualTo(2);
    }

    @Test
    void whatASeriesIsAShareOfIsNewsOfIt() {
        var share = watching(7, 1, 1, series(50));
        watch(share, over(2));
        arrived(50, NOW);
        assertThat(rings.news()).containsExactly(share);
        assertThat(share.post().ceiling.size()).isEqualTo(1);
        assertThat(share.post().ring.size()).isZero();
    }

    @Test
    void whatIsAShareOfNothingAnyMoreIsJudgedByItsSeriesAlone() {
        var share = watching(7, 1, 1, series(50));
        watch(share);
        arrived(50, NOW);
        watch(new Watching(share.guard(), share.subject(), share.group(), null, share.cadence(), share.post()));
        assertThat(share.post().ceiling.size()).isZero();
    }

    /** It may come with its feed and again from the store. */
    @Test
    void aReadingThatIsKnownIsNoNewsNorIsWhatNobodyWatches() {
        var one = over(1);
        watch(one);
        arrived(1, NOW, NOW);
        arrived(3, NOW);
        assertThat(rings.news()).containsExactly(one);
        rings.forget(false, NOW);
        arrived(1, NOW);
        assertThat(rings.news()).isEmpty();
        assertThat(one.post().ring.size()).isEqualTo(1);
    }

    /** So each failure counts once; a day that is sealed meanwhile looks empty to who reads as of a moment before. */
    @Test
    void onlyWhatIsCountedIsReadAsOfOneMoment() {
        var at = Micros.of(NOW.minusSeconds(60));
        stored.put(1L, new Readings(new long[] {at}, new double[] {40}));
        stored.put(2L, new Readings(new long[] {at, at}, new double[] {1, 1}));
        var heat = over(1);
        var failures = over(new Series(
                2, 2, new Measure(2, Measure.FAILED_MESSAGES, Sort.COUNTER, "", ""), Map.of(), null, false, null));
        watch(heat, failures);
        assertThat(readAsOfOneMoment).containsExactly(2L);
        assertThat(heat.post().ring.size()).isEqualTo(1);
        assertThat(failures.post().ring.size()).as("many fail at one instant").isEqualTo(2);
    }

    /** A guard that is changed goes on with the readings that were kept for it; one that is new and looks further back reads them anew. */
    @Test
    void whatIsWatchedAnewFindsWhatWasKept() {
        watch(over(1), over(2));
        arrived(1, NOW);
        var changed = watching(8, 1, 1, null);
        watch(changed);
        assertThat(changed.post().ring.size()).isEqualTo(1);
        assertThat(rings.news()).as("over what stands over it now").containsExactly(changed);
        rings.watch(Map.of(changed.subject().series(), REACH.multipliedBy(2)), Map.of(), NOW);
        rings.lay(List.of(changed));
        assertThat(changed.post().ring.size())
                .as("read anew from the store, which has none here")
                .isZero();
    }
}
