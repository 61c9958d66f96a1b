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
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What became different about components: taken in, and asked for. */
@Service
public class Changes implements AgedData {
    /** The state that says whether a component runs the version of its like. */
    public static final String VERSION = "version";

    private static final int A_TIME = 5000;

    public record Observed(long id, long component, Change change) {}

    /** A change was told; published within the transaction that keeps it, and again where it is told again. */
    public record ChangeSeen(long component, Change change, Instant at) {}

    private final ChangeStore store;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Live live;
    private final ApplicationEventPublisher events;

    Changes(ChangeStore store, Estate estate, MorvetSettings settings, Live live, ApplicationEventPublisher events) {
        this.events = events;
        this.store = store;
        this.estate = estate;
        this.settings = settings;
        this.live = live;
    }

    /** Stores what events tell, in the transaction that acknowledges them. */
    void told(long feed, List<EventKind.Arrived<Change>> some) {
        add(
                feed,
                some.stream()
                        .map(one -> new ChangeStore.Told(one.id(), one.component(), one.said()))
                        .toList());
        live.changed("changes");
    }

    /** What a component said of itself first is how it is; what it says otherwise later is a change. */
    @EventListener
    @Order(1)
    @Transactional
    public void on(InfosArrived arrived) {
        var components = new HashMap<String, Long>();
        for (var info : arrived.infos())
            estate.byKey(info.component()).ifPresent(one -> components.put(one.key(), one.id()));
        var known = store.infos(components.values());
        var now = new LinkedHashMap<List<Object>, ChangeStore.Said>();
        var changes = new ArrayList<ChangeStore.Told>();
        for (var info : arrived.infos()) {
            var component = components.get(info.component());
            if (component == null) continue;
            var before = known.computeIfAbsent(component, none -> new HashMap<>());
            var said = before.put(info.name(), info.labels());
            if (info.labels().equals(said)) continue;
            now.put(
                    List.of(component, info.name()),
                    new ChangeStore.Said(component, info.name(), info.labels(), info.at()));
            if (said == null) continue;
            for (var change : Infos.changes(info.name(), said, info.labels(), info.at()))
                changes.add(new ChangeStore.Told("", component, change));
        }
        store.say(now.values());
        add(arrived.feed(), changes);
        if (!changes.isEmpty()) live.changed("changes");
    }

    private void add(@Nullable Long feed, List<ChangeStore.Told> some) {
        store.add(feed, some);
        some.forEach(one -> events.publishEvent(
                new ChangeSeen(one.component(), one.change(), one.change().at())));
    }

    /** For what is set up by the application itself. */
    public void set(long feed, String component, Change change) {
        var id = estate.byKey(component).orElseThrow().id();
        store.add(feed, List.of(new ChangeStore.Told("", id, change)));
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

    /** The same in one list, by the name of the info and of its label: {@code build version}. */
    public Map<String, String> said(long component) {
        var said = new TreeMap<String, String>();
        infos(component)
                .forEach((name, labels) -> labels.forEach((label, value) -> said.put(name + " " + label, value)));
        return said;
    }

    @Override
    public void dropOld(Instant now) {
        while (store.dropBefore(now.minus(settings.keepRuns()), A_TIME) == A_TIME) continue;
    }
}
