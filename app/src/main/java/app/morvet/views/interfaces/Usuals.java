package app.morvet.views.interfaces;

import app.morvet.core.messages.UsualTraffic;
import app.morvet.ground.base.Derived;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/**
 * What each interface usually carries: reckoned anew every few hours from its last weeks, and kept. Where more of the past
 * has come in than time has passed, as when a middleware tells of its last weeks, it is not waited for so long.
 */
@Service
class Usuals implements Errand, Derived {
    private static final Duration LOOKED_BACK = Duration.ofDays(42);
    private static final Duration ANEW = Duration.ofHours(6);
    private static final Duration LOOKED_AT = Duration.ofMinutes(2);

    private static final Duration KEPT = Duration.ofMinutes(1);

    private final InterfaceStore store;
    private final Errands errands;
    private final Times times;
    private volatile Map<Long, UsualTraffic> kept = Map.of();
    private volatile Instant keptAt = Instant.MIN;

    /** Of how many hours of an interface's past the usual was reckoned, and up to when. */
    private record Reckoned(Instant end, long hours) {}

    private final Map<Long, Reckoned> reckoned = new ConcurrentHashMap<>();

    Usuals(InterfaceStore store, Errands errands, Times times) {
        this.store = store;
        this.errands = errands;
        this.times = times;
    }

    /** By interface. */
    Map<Long, UsualTraffic> all() {
        if (keptAt.plus(KEPT).isBefore(times.now())) {
            kept = store.usual(times.zone());
            keptAt = times.now();
        }
        return kept;
    }

    UsualTraffic of(long component) {
        return all().getOrDefault(component, UsualTraffic.unknown(times.zone()));
    }

    @Override
    public String name() {
        return "usual-traffic";
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        errands.unlessWaiting(times.now().plusSeconds(20), name(), "all");
    }

    @Override
    public Optional<Instant> run(String id) {
        var now = times.now();
        var end = now.truncatedTo(ChronoUnit.HOURS);
        store.hoursTold(end).forEach((interfaceId, hours) -> {
            if (due(interfaceId, hours, end)) reckon(interfaceId, hours, end);
        });
        keptAt = Instant.MIN;
        return Optional.of(now.plus(LOOKED_AT));
    }

    @Override
    public void reckon() {
        var end = times.now().truncatedTo(ChronoUnit.HOURS);
        store.hoursTold(end).forEach((interfaceId, hours) -> reckon(interfaceId, hours, end));
        keptAt = Instant.MIN;
    }

    private boolean due(long interfaceId, long hours, Instant end) {
        var before = reckoned.get(interfaceId);
        if (before == null || !before.end().plus(ANEW).isAfter(end)) return true;
        return hours - before.hours() > Duration.between(before.end(), end).toHours();
    }

    private void reckon(long interfaceId, long hours, Instant end) {
        var first = store.firstHour(interfaceId);
        if (first == null) return;
        var from = first.isAfter(end.minus(LOOKED_BACK)) ? first : end.minus(LOOKED_BACK);
        store.keepUsual(interfaceId, usual(interfaceId, from, end), times.now());
        reckoned.put(interfaceId, new Reckoned(end, hours));
    }

    private UsualTraffic usual(long component, Instant from, Instant end) {
        var told = new HashMap<Instant, InterfaceStore.Hour>();
        store.hours(component, from, end).forEach(hour -> told.put(hour.hour(), hour));
        var past = new ArrayList<UsualTraffic.Hour>();
        // An hour in which nothing was told carried nothing: silence at night is usual too.
        for (var hour = from; hour.isBefore(end); hour = hour.plus(1, ChronoUnit.HOURS)) {
            var one = told.get(hour);
            past.add(new UsualTraffic.Hour(
                    hour,
                    one == null ? 0 : one.delivered() + one.failed(),
                    one == null ? 0 : one.delays().quantile(0.95).orElse(0)));
        }
        return UsualTraffic.of(past, times.zone());
    }
}
