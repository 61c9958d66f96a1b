package app.morvet.ground.access;

import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.nodes.Notices;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/**
 * By which clock each person lives, where it is not that of the estate. Their quiet hours and digests go by it, and it stands beside the
 * estate's; what pages, logs and handovers say stays in the one zone that all who work together share.
 */
@Component
public class OwnZones {
    private final AccessStore store;
    private final Audit audit;
    private final ZoneId estate;
    private final Cache<Long, Optional<ZoneId>> known = Caffeine.newBuilder()
            .expireAfterWrite(Duration.ofSeconds(30))
            .maximumSize(10_000)
            .build();

    OwnZones(AccessStore store, Audit audit, MorvetSettings settings, Notices notices) {
        this.store = store;
        this.audit = audit;
        this.estate = settings.zone();
        notices.hear("people", none -> known.invalidateAll());
    }

    /** Empty where it is the estate's. */
    public Optional<ZoneId> of(long person) {
        return known.get(person, it -> store.zone(it).map(ZoneId::of).filter(zone -> !zone.equals(estate)));
    }

    /** The one by which somebody is told. */
    public ZoneId clockOf(long person) {
        return of(person).orElse(estate);
    }

    /** Those that can be chosen, such as {@code Europe/Helsinki}. */
    public static List<String> choices() {
        return ZoneId.getAvailableZoneIds().stream()
                .filter(one ->
                        one.matches("(Africa|America|Antarctica|Asia|Atlantic|Australia|Europe|Indian|Pacific)/.*"))
                .sorted()
                .toList();
    }

    /**
     * Somebody says by which clock they live.
     *
     * @param typed empty for that of the estate
     * @throws IllegalArgumentException where there is no such zone
     */
    public void set(Person who, String typed) {
        var zone = typed.strip();
        if (zone.equals(estate.getId())) zone = "";
        if (!zone.isEmpty() && !ZoneId.getAvailableZoneIds().contains(zone))
            throw new IllegalArgumentException("\"" + zone + "\" is no zone; write one such as " + estate.getId());
        var before = store.zone(who.id()).orElse("");
        if (before.equals(zone)) return;
        store.setZone(who.id(), zone.isEmpty() ? null : zone);
        known.invalidate(who.id());
        audit.record(who, "own zone set", "person " + who.name(), before, zone);
    }
}
