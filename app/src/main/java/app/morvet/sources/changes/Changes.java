package app.morvet.sources.changes;

import app.morvet.core.changes.Change;
import app.morvet.core.changes.Infos;
import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.sources.intake.EventKind;
import app.morvet.sources.intake.InfosArrived;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What became different about components: taken in, and asked for. */
@Service
public class Changes implements AgedData {
    private static final int A_TIME = 5000;

    public record Observed(long id, long component, Change change) {}

    private final ChangeStore store;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Live live;

    Changes(ChangeStore store, Estate estate, MorvetSettings settings, Live live) {
        this.store = store;
        this.estate = estate;
        this.settings = settings;
        this.live = live;
    }

    /** Stores what events tell, in the transaction that acknowledges them. */
    void told(long feed, List<EventKind.Arrived<Change>> some) {
        for (var one : some) store.add(feed, one.id(), one.component(), one.said());
        live.changed("changes");
    }

    /** What a component said of itself first is how it is; what it says otherwise later is a change. */
    @EventListener
    @Transactional
    public void on(InfosArrived arrived) {
        var known = new HashMap<Long, Map<String, Map<String, String>>>();
        boolean changed = false;
        for (var info : arrived.infos()) {
            var component = estate.byKey(info.component()).orElse(null);
            if (component == null) continue;
            var before = known.computeIfAbsent(component.id(), store::infos);
            var said = before.get(info.name());
            if (info.labels().equals(said)) continue;
            store.say(component.id(), info.name(), info.labels(), info.at());
            before.put(info.name(), info.labels());
            if (said == null) continue;
            for (var change : Infos.changes(info.name(), said, info.labels(), info.at()))
                store.add(arrived.feed(), "", component.id(), change);
            changed = true;
        }
        if (changed) live.changed("changes");
    }

    /** For what is set up by the application itself. */
    public void set(long feed, String component, Change change) {
        store.add(feed, "", estate.byKey(component).orElseThrow().id(), change);
    }

    /** The latest in which some words stand, the newest first. */
    public List<Observed> latest(String words, Instant from, Instant to, long before, int most) {
        var wanted = words.strip();
        var lower = wanted.toLowerCase(Locale.ROOT);
        var named = wanted.isEmpty()
                ? List.<Long>of()
                : estate.components().stream()
                        .filter(one -> one.name().toLowerCase(Locale.ROOT).contains(lower)
                                || one.key().toLowerCase(Locale.ROOT).contains(lower))
                        .map(Estate.Component::id)
                        .toList();
        return store.latest(wanted, named, from, to, before, most);
    }

    /** Those of some components in a span, the newest first. */
    public List<Observed> of(Collection<Long> components, Instant from, Instant to, int most) {
        return components.isEmpty() ? List.of() : store.of(components, from, to, most);
    }

    /** What a component says of itself now, by the name of the info. */
    public Map<String, Map<String, String>> infos(long component) {
        return store.infos(component);
    }

    @Override
    public void dropOld(Instant now) {
        while (store.dropBefore(now.minus(settings.keepRuns()), A_TIME) == A_TIME) continue;
    }
}
