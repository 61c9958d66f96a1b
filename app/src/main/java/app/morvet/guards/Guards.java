package app.morvet.guards;

import app.morvet.access.Audit;
import app.morvet.access.Person;
import app.morvet.core.guard.CountCurve;
import app.morvet.core.guard.CountRing;
import app.morvet.core.guard.CountWindow;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Watched;
import app.morvet.estate.Estate;
import app.morvet.messages.MessageStore;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The standing guards: looked up, changed, and drawn as the curve that they judge. */
@Service
public class Guards {
    /** Somebody else changed the guard in between. */
    public static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        Overtaken() {
            super(
                    "Somebody else changed this guard while you were editing it. Nothing was saved; your sentence stands below. Load the guard again to see theirs.");
        }
    }

    private final GuardStore store;
    private final Estate estate;
    private final MessageStore messages;
    private final Audit audit;
    private final Clock clock;
    private final ApplicationEventPublisher events;

    Guards(
            GuardStore store,
            Estate estate,
            MessageStore messages,
            Audit audit,
            Clock clock,
            ApplicationEventPublisher events) {
        this.store = store;
        this.estate = estate;
        this.messages = messages;
        this.audit = audit;
        this.clock = clock;
        this.events = events;
    }

    public List<StandingGuard> all() {
        return store.all();
    }

    public StandingGuard byId(long id) {
        return store.byId(id).orElseThrow(() -> new IllegalArgumentException("There is no guard " + id + "."));
    }

    /** By id, deleted ones too. */
    public Map<Long, StandingGuard> byIds(Collection<Long> ids) {
        return store.byIds(ids).stream().collect(Collectors.toMap(StandingGuard::id, Function.identity()));
    }

    public String sentence(StandingGuard guard) {
        return GuardSentence.of(guard.rule(), guard.watched(), estate::nameOf);
    }

    /** The interfaces that a guard would stand over now. */
    public List<Estate.Interface> matches(Watched watched) {
        return estate.interfaces().stream()
                .filter(one -> watched.matches(
                        one.key(),
                        estate.applicationOf(one).map(Estate.Application::key).orElse("")))
                .toList();
    }

    /** Where the window that is judged at an instant begins. */
    public Instant windowStart(long guard, Instant at) {
        return window(byId(guard).rule()).openStart(at);
    }

    private static CountWindow window(Guard guard) {
        return switch (guard) {
            case LimitGuard limit -> limit.window();
        };
    }

    /** The curve of what a guard counts on an interface. */
    public List<CountCurve.Point> curve(Guard guard, long component, Instant from, Instant to, Duration step) {
        var window = window(guard);
        var ring = new CountRing();
        messages.timesOf(component, from.minus(window.reach()), to).forEach(at -> ring.add(at, 1));
        return CountCurve.of(window, ring, from, to, step);
    }

    @Transactional
    public long add(String name, Watched watched, Guard rule, String fixNote, Person by) {
        long id = store.add(name, true, watched, rule, fixNote, clock.instant(), by.id());
        audit.record(by, "guard made", "guard " + id, null, name + ": " + sentence(byId(id)));
        events.publishEvent(new GuardChanged(id));
        return id;
    }

    /** Changes a guard to what is given, where its version is still the one given. */
    @Transactional
    public void change(StandingGuard guard, Person by) {
        var before = byId(guard.id());
        if (!store.change(guard, clock.instant(), by.id())) throw new Overtaken();
        audit.record(by, "guard changed", "guard " + guard.id(), told(before), told(byId(guard.id())));
        events.publishEvent(new GuardChanged(guard.id()));
    }

    private String told(StandingGuard guard) {
        return guard.name() + (guard.active() ? ": " : " (off): ") + sentence(guard);
    }

    /** For what is set up by the application itself. */
    public void set(String name, Watched watched, Guard rule, String fixNote) {
        store.add(name, true, watched, rule, fixNote, clock.instant(), null);
    }
}
