package app.morvet.ground.estate;

import app.morvet.core.estate.Scope;
import app.morvet.core.estate.Tier;
import app.morvet.ground.base.OwnTransaction;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;

/**
 * What is watched and whose it is. Small and asked for all the time, so a snapshot of it is kept, and made anew at every
 * change, on whatever node it is made.
 */
@Service
public class Estate {
    private static final Duration SNAPSHOT_LASTS = Duration.ofSeconds(30);

    /** @param mail where the team is told */
    public record Team(long id, String key, String name, String mail) {}

    public record Application(long id, String key, String name, Tier tier, String environment, long teamId) {}

    /**
     * One watched thing.
     *
     * @param kind          such as {@code host}; {@link #KINDS}
     * @param applicationId null while it is not assigned
     * @param standsOn      id of the component that it stands on, or null
     */
    public record Component(
            long id,
            String key,
            String name,
            String kind,
            @Nullable Long applicationId,
            @Nullable Long standsOn,
            Instant firstSeen) {}

    public static final String INTERFACE = "interface";
    public static final String JOB = "job";
    public static final List<String> KINDS = List.of(
            "host",
            "instance",
            "service",
            INTERFACE,
            JOB,
            "endpoint",
            "queue",
            "certificate",
            "licence",
            "vendor instance",
            "component");

    public static final List<String> ENVIRONMENTS = List.of("production", "rehearsal", "development");

    /**
     * A registered source of data.
     *
     * @param cadence      how often it promised to be heard
     * @param lastHeard    null while nothing has come yet
     * @param fetchUrl     the page that Morvet fetches; null where the feed sends by itself
     * @param failingSince since when fetching fails, or null
     * @param failure      why; empty while it does not
     */
    public record Feed(
            long id,
            String key,
            String name,
            Duration cadence,
            @Nullable Instant lastHeard,
            @Nullable String fetchUrl,
            @Nullable Instant failingSince,
            String failure) {
        /** Silent for longer than three times what it promised. */
        public boolean stale(Instant now) {
            return lastHeard != null && lastHeard.plus(cadence.multipliedBy(3)).isBefore(now);
        }
    }

    /** A feed was added. Published inside the transaction that adds it. */
    public record FeedsChanged() {}

    /** Something new that registers itself. */
    public record Newcomer(String key, String kind) {}

    /** Something new registered itself or was changed. */
    public record EstateChanged() {}

    /** Components have registered themselves that were not there, by their keys. */
    public record Appeared(List<String> keys) {}

    /** The notice that the estate has changed. */
    public static final String CHANGED = "estate";

    private final EstateStore store;
    private final Notices notices;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    private final OwnTransaction ownTransaction;
    private final Map<Long, Instant> heard = new ConcurrentHashMap<>();
    private final Remembered<EstateSnapshot> snapshot;

    Estate(
            EstateStore store,
            Notices notices,
            Clock clock,
            ApplicationEventPublisher events,
            OwnTransaction ownTransaction) {
        this.store = store;
        this.notices = notices;
        this.clock = clock;
        this.events = events;
        this.ownTransaction = ownTransaction;
        this.snapshot = new Remembered<>(
                () -> EstateSnapshot.read(store, clock.instant()),
                kept -> !kept.madeAt().plus(SNAPSHOT_LASTS).isBefore(clock.instant()));
        notices.hearOthers(CHANGED, snapshot::forget);
    }

    private EstateSnapshot now() {
        return snapshot.get();
    }

    public List<Team> teams() {
        return now().teams();
    }

    public List<Application> applications() {
        return now().applications();
    }

    /** All components, by name. */
    public List<Component> components() {
        return now().components();
    }

    /** How many components an application has. */
    public long countOf(Application one) {
        return now().counts().getOrDefault(one.id(), 0L);
    }

    /** How many components belong to no application. */
    public long unassigned() {
        return now().counts().getOrDefault(0L, 0L);
    }

    /** The components that are interfaces, by name. */
    public Collection<Component> interfaces() {
        return now().interfaces();
    }

    public Optional<Component> byKey(String key) {
        return Optional.ofNullable(now().componentsByKey().get(key));
    }

    /** What scopes ask of a component. */
    public Scope.Facts factsOf(Component one) {
        var known = now().facts().get(one.id());
        if (known == null) {
            component(one.id());
            known = now().facts().get(one.id());
        }
        return Objects.requireNonNull(known, one.key());
    }

    /** Groups of components, by name. */
    public List<Groups.Group> groups() {
        return now().groups();
    }

    /** The component of an id that the store gave out. */
    public Component component(long id) {
        var found = now().componentsById().get(id);
        if (found == null) {
            snapshot.forget();
            found = now().componentsById().get(id);
        }
        if (found == null) throw new IllegalArgumentException("there is no component " + id);
        return found;
    }

    /** The key of the application of a component, by its own key; empty where it has none. */
    public String applicationKeyOf(String component) {
        return byKey(component)
                .flatMap(this::applicationOf)
                .map(Application::key)
                .orElse("");
    }

    public Optional<Application> applicationOf(Component subject) {
        var id = subject.applicationId();
        return id == null
                ? Optional.empty()
                : Optional.ofNullable(now().applicationsById().get(id));
    }

    public Optional<Application> application(String key) {
        return applications().stream().filter(one -> one.key().equals(key)).findFirst();
    }

    public Optional<Team> ownerOf(Component subject) {
        return applicationOf(subject).flatMap(application -> team(application.teamId()));
    }

    public Optional<Team> team(long id) {
        return Optional.ofNullable(now().teamsById().get(id));
    }

    public Optional<Team> team(String key) {
        return teams().stream().filter(team -> team.key().equals(key)).findFirst();
    }

    public Tier tierOf(Component subject) {
        return applicationOf(subject).map(Application::tier).orElse(Tier.UNASSIGNED);
    }

    /** The name of an application or component by its key; the key itself where there is none. */
    public String nameOf(String key) {
        return applications().stream()
                .filter(application -> application.key().equals(key))
                .map(Application::name)
                .findFirst()
                .or(() -> byKey(key).map(Component::name))
                .orElse(key);
    }

    /**
     * Takes in components that nobody has named yet, in a transaction of its own: registering is not undone when what
     * came with it is.
     */
    public void register(Collection<Newcomer> newcomers) {
        ownTransaction.run(() -> {
            var fresh = store.register(List.copyOf(newcomers), clock.instant());
            changed();
            if (!fresh.isEmpty()) events.publishEvent(new Appeared(fresh));
        });
    }

    /**
     * The keys of interfaces that are named, by name or key, with commas between.
     *
     * @throws IllegalArgumentException where one is not there; says which
     */
    public Set<String> interfacesNamed(String typed) {
        var keys = new LinkedHashSet<String>();
        for (var name : typed.split(",")) {
            var wanted = name.strip();
            if (wanted.isEmpty()) continue;
            keys.add(interfaces().stream()
                    .filter(one -> one.key().equals(wanted) || one.name().equalsIgnoreCase(wanted))
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("there is no interface \"" + wanted + "\""))
                    .key());
        }
        return keys;
    }

    public List<Feed> feeds() {
        return store.feeds();
    }

    /** Notes that a feed was heard; at most once a second goes to the store. */
    public void heard(long feed) {
        var now = clock.instant();
        var before = heard.get(feed);
        if (before != null && before.plusSeconds(1).isAfter(now)) return;
        heard.put(feed, now);
        store.heard(feed, now);
    }

    /** The feed of an id, as the store has it now. */
    public Optional<Feed> feed(long id) {
        return store.feed(id);
    }

    public long addTeam(String key, String name, String mail) {
        long id = store.addTeam(key, name, mail);
        changed();
        return id;
    }

    public long addApplication(String key, String name, int tier, long team) {
        return addApplication(key, name, tier, "production", team);
    }

    public long addApplication(String key, String name, int tier, String environment, long team) {
        long id = store.addApplication(key, name, tier, environment, team);
        changed();
        return id;
    }

    /** Gives back its id. */
    public long add(String key, String name, String kind, @Nullable Long application) {
        long id = store.add(key, name, kind, application, clock.instant());
        changed();
        return id;
    }

    /** Changes what people may change of a component. */
    public void change(Component component) {
        store.change(
                component.id(), component.name(), component.kind(), component.applicationId(), component.standsOn());
        changed();
    }

    /** All that is known now was there at an instant: a past that is taken in as a whole tells of it. */
    public void seenSince(Instant at) {
        store.seenSince(at);
        changed();
    }

    /** Changes what people may change of an application. */
    public void change(Application application) {
        store.changeApplication(
                application.id(),
                application.name(),
                application.tier().number(),
                application.environment(),
                application.teamId());
        changed();
    }

    /** Changes name and mail of a team. */
    public void change(Team team) {
        store.changeTeam(team);
        changed();
    }

    /** What a component needs to work. */
    public List<Component> needsOf(long component) {
        return now().needs().getOrDefault(component, List.of()).stream()
                .map(this::component)
                .toList();
    }

    /** What needs a component to work. */
    public List<Component> needing(long component) {
        return now().needing().getOrDefault(component, List.of()).stream()
                .map(this::component)
                .toList();
    }

    /** What stands on a component. */
    public List<Component> standingOn(long component) {
        return now().standingOn().getOrDefault(component, List.of());
    }

    /** Says that a component stands on another. */
    public void standsOn(String component, String on) {
        store.standsOn(component, on);
        changed();
    }

    /** Says that a component needs another to work. */
    public void needs(String component, String other) {
        store.needs(component, other);
        changed();
    }

    public long addFeed(String key, String name, Duration cadence) {
        return store.addFeed(key, name, cadence, null);
    }

    public long addFetchedFeed(String key, String name, Duration cadence, String url) {
        long id = store.addFeed(key, name, cadence, url);
        events.publishEvent(new FeedsChanged());
        return id;
    }

    public void fetchFailed(long feed, String why) {
        store.fetchFailed(feed, clock.instant(), why);
    }

    public void fetchWorks(long feed) {
        store.fetchWorks(feed);
    }

    void changed() {
        snapshot.forget();
        notices.tell(CHANGED);
        events.publishEvent(new EstateChanged());
    }
}
