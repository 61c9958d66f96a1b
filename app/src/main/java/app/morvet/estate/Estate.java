package app.morvet.estate;

import app.morvet.core.estate.Tier;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What is watched and whose it is. Small and asked for all the time, so a snapshot of it is kept, and made anew at every
 * change here and once in a while for changes made on another node.
 */
@Service
public class Estate {
    private static final Duration SNAPSHOT_LASTS = Duration.ofSeconds(30);

    /** @param mail where the team is told */
    public record Team(long id, String key, String name, String mail) {}

    public record Application(long id, String key, String name, Tier tier, String environment, long teamId) {}

    /** @param applicationId null while it is not assigned */
    public record Interface(long id, String key, String name, @Nullable Long applicationId) {}

    /** @param lastHeard null while nothing has come yet */
    public record Feed(long id, String key, String name, Duration cadence, @Nullable Instant lastHeard) {}

    /** Something new registered itself or was changed. */
    public record EstateChanged() {}

    private record Snapshot(
            Instant madeAt,
            List<Team> teams,
            List<Application> applications,
            Map<Long, Interface> interfacesById,
            Map<String, Interface> interfacesByKey) {}

    private final EstateStore store;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    private final Map<Long, Instant> heard = new ConcurrentHashMap<>();
    private volatile @Nullable Snapshot snapshot;

    Estate(EstateStore store, Clock clock, ApplicationEventPublisher events) {
        this.store = store;
        this.clock = clock;
        this.events = events;
    }

    private Snapshot now() {
        var kept = snapshot;
        if (kept == null || kept.madeAt().plus(SNAPSHOT_LASTS).isBefore(clock.instant())) {
            var interfaces = store.interfaces();
            kept = new Snapshot(
                    clock.instant(),
                    store.teams(),
                    store.applications(),
                    interfaces.stream().collect(Collectors.toMap(Interface::id, Function.identity())),
                    interfaces.stream().collect(Collectors.toMap(Interface::key, Function.identity())));
            snapshot = kept;
        }
        return kept;
    }

    public List<Team> teams() {
        return now().teams();
    }

    public List<Application> applications() {
        return now().applications();
    }

    public Collection<Interface> interfaces() {
        return now().interfacesById().values().stream()
                .sorted(java.util.Comparator.comparing(Interface::name, String.CASE_INSENSITIVE_ORDER))
                .toList();
    }

    public Optional<Interface> byKey(String key) {
        return Optional.ofNullable(now().interfacesByKey().get(key));
    }

    /** The interface of an id that the store gave out. */
    public Interface interfaceOf(long id) {
        var found = now().interfacesById().get(id);
        if (found == null) {
            snapshot = null;
            found = now().interfacesById().get(id);
        }
        if (found == null) throw new IllegalArgumentException("there is no interface " + id);
        return found;
    }

    public Optional<Application> applicationOf(Interface subject) {
        return applications().stream()
                .filter(application -> Long.valueOf(application.id()).equals(subject.applicationId()))
                .findFirst();
    }

    public Optional<Team> ownerOf(Interface subject) {
        return applicationOf(subject).flatMap(application -> team(application.teamId()));
    }

    public Optional<Team> team(long id) {
        return teams().stream().filter(team -> team.id() == id).findFirst();
    }

    public Tier tierOf(Interface subject) {
        return applicationOf(subject).map(Application::tier).orElse(Tier.UNASSIGNED);
    }

    /** The name of an application or interface by its key; the key itself where there is none. */
    public String nameOf(String key) {
        return applications().stream()
                .filter(application -> application.key().equals(key))
                .map(Application::name)
                .findFirst()
                .or(() -> byKey(key).map(Interface::name))
                .orElse(key);
    }

    /**
     * Takes in interfaces that nobody has named yet, in a transaction of its own: registering is not undone when what
     * came with it is.
     */
    @Transactional(propagation = Propagation.REQUIRES_NEW)
    public void register(Collection<String> keys) {
        store.registerInterfaces(List.copyOf(keys), clock.instant());
        changed();
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

    public long addTeam(String key, String name, String mail) {
        return store.addTeam(key, name, mail);
    }

    public long addApplication(String key, String name, int tier, long team) {
        return store.addApplication(key, name, tier, "production", team);
    }

    public void addInterface(String key, String name, long application) {
        store.addInterface(key, name, application, clock.instant());
        changed();
    }

    public long addFeed(String key, String name, Duration cadence) {
        return store.addFeed(key, name, cadence);
    }

    private void changed() {
        snapshot = null;
        events.publishEvent(new EstateChanged());
    }
}
