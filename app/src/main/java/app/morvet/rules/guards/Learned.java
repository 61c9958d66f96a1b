package app.morvet.rules.guards;

import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Projection;
import app.morvet.core.guard.Seer;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.UsualRange;
import app.morvet.core.readings.Past;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.Ticker;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What live guards have learned of the past, kept for some minutes: it takes a dozen looks into the store, and a guard is judged at
 * every reading. A reading that comes late into what was learned from counts when it is learned anew.
 */
final class Learned {
    static final Duration KEPT_FOR = Duration.ofMinutes(5);
    private static final int MOST = 100_000;

    private record Hour(long series, Instant start, int weeks, ZoneId zone) {}

    private record View(long series, Instant seen, Duration lookback, boolean seasonal, ZoneId zone) {}

    private final Cache<Hour, Optional<UsualRange>> hours;
    private final Cache<View, Optional<Projection>> views;

    Learned(Ticker ticker) {
        this.hours = cache(ticker);
        this.views = cache(ticker);
    }

    private static <K, V> Cache<K, V> cache(Ticker ticker) {
        return Caffeine.newBuilder()
                .ticker(ticker)
                .maximumSize(MOST)
                .expireAfterWrite(KEPT_FOR)
                .build();
    }

    Seer of(long series) {
        return new Seer() {
            @Override
            public @Nullable Projection of(Past past, Instant seen, TrendGuard guard) {
                return views.get(
                                new View(series, seen, guard.lookback(), guard.seasonal(), guard.zone()),
                                key -> Optional.ofNullable(Projection.of(past, seen, guard)))
                        .orElse(null);
            }

            @Override
            public @Nullable UsualRange usual(Past past, Instant hour, BandGuard guard) {
                return hours.get(
                                new Hour(series, hour, guard.weeks(), guard.zone()),
                                key -> Optional.ofNullable(Seer.super.usual(past, hour, guard)))
                        .orElse(null);
            }
        };
    }

    void forget() {
        hours.invalidateAll();
        views.invalidateAll();
    }
}
