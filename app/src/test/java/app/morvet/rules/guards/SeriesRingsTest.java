package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.ground.base.Snapshot;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** What is kept of what a series told. */
class SeriesRingsTest {
    private static final Instant NOW = Instant.parse("2027-03-18T03:20:00Z");

    /** A feed may tell an hour at once, of which a guard looks back five minutes: all of it is there to be judged. */
    @Test
    void anHourThatIsToldAtOnceIsKeptUntilItWasJudged() {
        var rings = new SeriesRings(new Histories(null, null, null) {
            @Override
            Map<Long, Readings> between(Collection<Series> some, Instant from, Instant to) {
                return Map.of();
            }
        });
        var series = SomeWatches.series(1);
        rings.watch(Snapshot.parse("10:10:"), Map.of(series, Duration.ofMinutes(5)), Map.of(), NOW);
        var times = LongStream.rangeClosed(-60, 0)
                .map(minute -> Micros.of(NOW.plus(Duration.ofMinutes(minute))))
                .toArray();
        var ids = LongStream.of(times).map(each -> 1).toArray();
        var fresh = new HashSet<Long>();
        rings.take(new Arrivals.Arrived(9, false, ids, times, new double[times.length]), null, fresh);
        assertThat(fresh).containsExactly(1L);
        assertThat(rings.of(1).size()).isEqualTo(61);
        rings.forget(Set.of(2L), NOW);
        assertThat(rings.of(1).size()).as("another series was judged").isEqualTo(61);
        rings.forget(fresh, NOW);
        assertThat(rings.of(1).size())
                .as("a quarter of an hour, and the one before it")
                .isEqualTo(17);
    }
}
