package app.morvet.interfaces;

import app.morvet.base.Errand;
import app.morvet.base.Errands;
import app.morvet.core.messages.UsualTraffic;
import app.morvet.estate.Estate;
import app.morvet.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;

/** What each interface usually carries: reckoned anew every few hours from its last weeks, and kept. */
@Service
class Usuals implements Errand {
    private static final Duration LOOKED_BACK = Duration.ofDays(42);
    private static final Duration ANEW = Duration.ofHours(6);
    /** While nothing is usual yet, the past may just be coming in. */
    private static final Duration SOON = Duration.ofMinutes(2);

    private static final Duration KEPT = Duration.ofMinutes(1);

    private final InterfaceStore store;
    private final Estate estate;
    private final Errands errands;
    private final Times times;
    private volatile Map<Long, UsualTraffic> kept = Map.of();
    private volatile Instant keptAt = Instant.MIN;

    Usuals(InterfaceStore store, Estate estate, Errands errands, Times times) {
        this.store = store;
        this.estate = estate;
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
        boolean young = false;
        for (var one : estate.interfaces()) {
            var first = store.firstHour(one.id());
            if (first == null) continue;
            var from = first.isAfter(end.minus(LOOKED_BACK)) ? first : end.minus(LOOKED_BACK);
            young |= from.isAfter(now.minus(Duration.ofDays(2)));
            store.keepUsual(one.id(), usual(one.id(), from, end), now);
        }
        keptAt = Instant.MIN;
        return Optional.of(now.plus(young ? SOON : ANEW));
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
