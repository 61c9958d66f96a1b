package app.morvet.sources.checks;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Checks as people make, change and delete them; each change is in the audit record, without what is secret. */
@Service
public class Checks {
    private static final Duration SHORTEST = Duration.ofSeconds(10);
    private static final Duration LONGEST = Duration.ofDays(1);
    private static final int MOST_TRIES = 5;
    private static final int LONGEST_NAME = 100;
    private static final int LONGEST_OF = 200;
    private static final String ENDPOINT = "endpoint";

    private final CheckStore store;
    private final CheckRound round;
    private final Prober prober;
    private final CheckResults results;
    private final Estate estate;
    private final Audit audit;
    private final Clock clock;

    Checks(
            CheckStore store,
            CheckRound round,
            Prober prober,
            CheckResults results,
            Estate estate,
            Audit audit,
            Clock clock) {
        this.store = store;
        this.round = round;
        this.prober = prober;
        this.results = results;
        this.estate = estate;
        this.audit = audit;
        this.clock = clock;
    }

    List<StoredCheck> all() {
        return store.all();
    }

    Optional<StoredCheck> find(long id) {
        return store.byId(id);
    }

    /**
     * Makes one, or changes it where it has an id. What is refused leaves nothing behind, no endpoint either.
     *
     * @param of what it is a check of: its name or key; what is not known by it becomes an endpoint
     * @throws IllegalArgumentException that says what cannot be
     */
    @Transactional
    public void keep(StoredCheck typed, String of, Person by) {
        sound(typed);
        var one = typed.of(component(of.strip()));
        var before = one.id() == 0 ? null : store.byId(one.id()).orElse(null);
        if (before == null) store.add(one, clock.instant());
        else if (!store.change(one, clock.instant()))
            throw new IllegalArgumentException(
                    "Somebody else changed this check meanwhile; look at it as it is now, and change it again.");
        audit.record(
                by,
                before == null ? "check made" : "check changed",
                "check " + one.name(),
                before == null ? null : words(before),
                words(one));
        // Under another name, or switched off, what it was is no more.
        if (before != null
                && (!one.active() || !one.name().equals(before.name()) || one.component() != before.component()))
            results.forget(before);
        afterwards();
    }

    private long component(String name) {
        if (name.isEmpty()) throw new IllegalArgumentException("Say of what it is a check.");
        var known = estate.byKey(name).or(() -> estate.components().stream()
                .filter(one -> one.name().equalsIgnoreCase(name))
                .findFirst());
        if (known.isPresent()) return known.get().id();
        var key = name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        if (key.isEmpty() || name.length() > LONGEST_OF)
            throw new IllegalArgumentException("\"" + name + "\" is no name for what is new in the estate.");
        if (estate.byKey(key).isEmpty()) estate.add(key, name, ENDPOINT, null);
        return estate.byKey(key).orElseThrow().id();
    }

    private void sound(StoredCheck one) {
        if (one.name().isBlank() || one.name().length() > LONGEST_NAME)
            throw new IllegalArgumentException("A check has a name of at most 100 characters.");
        if (store.taken(one.name(), one.id()))
            throw new IllegalArgumentException("There is a check \"" + one.name() + "\" already.");
        if (one.every().compareTo(SHORTEST) < 0 || one.every().compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("A check runs every 10 s to every day.");
        if (one.tries() < 1 || one.tries() > MOST_TRIES)
            throw new IllegalArgumentException("A check is tried 1 to 5 times.");
        prober.allowed(one.target());
    }

    private String words(StoredCheck one) {
        return one.sentence() + " Of " + estate.component(one.component()).name()
                + (one.active() ? "." : ", switched off.");
    }

    /** What came of one run, for what is set up by the application itself. */
    public record PastRun(Instant at, Result result) {}

    /** Sets one up with its past, by the application itself; from now on it runs. */
    public void set(String name, String component, Duration every, Target target, List<PastRun> past) {
        var one = new StoredCheck(
                0, name, estate.byKey(component).orElseThrow().id(), every, 2, target, "", true, 0, null, null);
        results.keepPast(one, past);
        store.add(one, clock.instant());
    }

    /** What was asked at one address is asked at another from now on. */
    public void moved(String before, String now) {
        store.moved(before, now);
    }

    @Transactional
    public void delete(long id, Person by) {
        store.byId(id).ifPresent(one -> {
            store.delete(id);
            results.forget(one);
            audit.record(by, "check deleted", "check " + one.name(), words(one), null);
        });
    }

    private void afterwards() {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                round.lookAgain();
            }
        });
    }
}
