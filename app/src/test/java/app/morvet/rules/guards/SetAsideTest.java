package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.rules.guards.Watches.Watching;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import com.github.benmanes.caffeine.cache.Ticker;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** One series that cannot be judged is set aside, and all others are judged on. */
class SetAsideTest {
    private static final Instant NOW = Instant.parse("2027-03-18T03:20:00Z");
    private static final long BROKEN = 1;

    private final SetAside aside = new SetAside();
    private boolean broken = true;

    /** Whatever is asked of one series fails while it is broken. */
    private final SeriesRings rings = new SeriesRings(null) {
        @Override
        ReadingRing of(long series) {
            if (broken && series == BROKEN) throw new ArithmeticException("it is not finite");
            return super.of(series);
        }
    };

    private static Watching watching(long id) {
        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.MEAN),
                Limits.above(80, 90),
                Terms.clearing(0.85, Duration.ZERO));
        var guard = new StoredGuard(7, "Heat", true, Watch.of("heat"), rule, "", null, 1);
        var series = new Series(id, id, new Measure(1, "heat", Sort.GAUGE, "", ""), Map.of(), null, false, null);
        var host = new Estate.Component(id, "host-" + id, "Host " + id, "host", null, null, NOW);
        var about = new Scope.Facts(host.key(), host.name(), host.kind(), "", 0, "", Set.of(), "", null);
        return new Watching(guard, new Subject(series, host, null, about), "c" + id, null, Duration.ofMinutes(1));
    }

    private List<Long> judged() {
        var all = new LinkedHashMap<GuardStore.Key, Watching>();
        for (long id : List.of(BROKEN, 2L, 3L)) all.put(watching(id).key(), watching(id));
        var watches = new Watches(all, Map.of(), List.of(), Map.of(), Map.of(), Map.of(), Set.of());
        return new Judging(
                        watches,
                        new HashMap<>(),
                        rings,
                        series -> (from, to) -> Readings.NONE,
                        new Learned(Ticker.systemTicker()),
                        aside)
                .of(all.values(), NOW).stream()
                        .map(one -> one.watching().key().series())
                        .toList();
    }

    @Test
    void theOthersAreJudgedAndTheNowLineSaysSo() {
        assertThat(judged()).containsExactly(2L, 3L);
        assertThat(judged()).containsExactly(2L, 3L);
        assertThat(aside.now()).singleElement().satisfies(item -> {
            assertThat(item.words()).isEqualTo("1 series cannot be judged");
            assertThat(item.mark()).isEqualTo("warning");
        });
    }

    @Test
    void onceItCanBeJudgedNothingIsSaidOfIt() {
        judged();
        broken = false;
        assertThat(judged()).containsExactly(BROKEN, 2L, 3L);
        assertThat(aside.now()).isEmpty();
    }
}
