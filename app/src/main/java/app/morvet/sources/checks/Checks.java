package app.morvet.sources.checks;

import app.morvet.core.checks.Cadence;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.core.estate.ComponentKey;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.outposts.Outposts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Checks as people make, change and delete them; each change is in the audit record, without what is secret. */
@Service
public class Checks {
    static final int MOST_TRIES = 5;
    private static final int LONGEST_NAME = 100;
    private static final int LONGEST_OF = 200;
    private static final String ENDPOINT = "endpoint";

    private final CheckStore store;
    private final CheckRound round;
    private final Asking asking;
    private final CheckResults results;
    private final Outposts outposts;
    private final Estate estate;
    private final Audit audit;
    private final Clock clock;

    Checks(
            CheckStore store,
            CheckRound round,
            Asking asking,
            CheckResults results,
            Outposts outposts,
            Estate estate,
            Audit audit,
            Clock clock) {
        this.store = store;
        this.round = round;
        this.asking = asking;
        this.results = results;
        this.outposts = outposts;
        this.estate = estate;
        this.audit = audit;
        this.clock = clock;
    }

    List<StoredCheck> page(String words, int from, int most) {
        return store.page(words.strip(), from, most);
    }

    long count(String words) {
        return store.count(words.strip());
    }

    StoredCheck.Secrets secrets(long id) {
        return store.secrets(id);
    }

    Optional<StoredCheck.Passed> passed(long id) {
        return store.passed(id);
    }

    List<CheckStore.Heard> heard(long id) {
        return store.heard(id);
    }

    /** What outposts are called, by their ids: for sentences, of many checks at once. */
    Map<Long, String> names() {
        var names = new HashMap<Long, String>();
        outposts.all().forEach(one -> names.put(one.id(), one.name()));
        return names;
    }

    /** Its sentence, with the names of those that ask. */
    static String sentence(StoredCheck one, Map<Long, String> names) {
        return one.sentence(
                one.from().stream().map(id -> names.getOrDefault(id, "?")).toList());
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
    void keep(StoredCheck typed, StoredCheck.Secrets secrets, String of, Person by) {
        sound(typed);
        var one = typed.of(component(of.strip()));
        var before = one.id() == 0 ? null : store.byId(one.id()).orElse(null);
        if (before == null) store.add(one, secrets, clock.instant());
        else if (!store.change(one, secrets, clock.instant()))
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
        outposts.asked();
        afterwards();
    }

    private long component(String name) {
        if (name.isEmpty()) throw new IllegalArgumentException("Say of what it is a check.");
        var known = estate.byKey(name).or(() -> estate.components().stream()
                .filter(one -> one.name().equalsIgnoreCase(name))
                .findFirst());
        if (known.isPresent()) return known.get().id();
        var key = ComponentKey.of(name);
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
        if (one.tries() < 1 || one.tries() > MOST_TRIES)
            throw new IllegalArgumentException("A check is tried 1 to 5 times.");
        if (one.agree() < 1 || one.agree() > Math.max(1, one.from().size()))
            throw new IllegalArgumentException("Of %d that ask, 1 to %d can agree."
                    .formatted(
                            Math.max(1, one.from().size()),
                            Math.max(1, one.from().size())));
        if (one.from().isEmpty()) asking.allowed(one.look().kind(), one.look().target());
        for (var id : one.from())
            if (outposts.find(id).isEmpty()) throw new IllegalArgumentException("There is no outpost " + id + ".");
    }

    private String words(StoredCheck one) {
        return sentence(one, names()) + " Of "
                + estate.component(one.component()).name() + (one.active() ? "." : ", switched off.");
    }

    /** What came of one run, for what is set up by the application itself. */
    public record PastRun(Instant at, Result result) {}

    /** Sets one up with its past, by the application itself; from now on it runs. */
    public void set(
            String name,
            String component,
            Duration every,
            Look look,
            List<Long> from,
            String logIn,
            List<PastRun> past) {
        long id = estate.byKey(component).orElseThrow().id();
        var one = new StoredCheck(0, name, id, Cadence.of(every), 2, look, from, 1, true, 0, null);
        if (!past.isEmpty()) results.keepPast(one, past);
        store.add(one, new StoredCheck.Secrets("", logIn), clock.instant());
        outposts.asked();
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
            outposts.asked();
        });
    }

    /** Takes what is there now for what should be: what a check of a page or a file remembers begins anew. */
    @Transactional
    public void asItIs(long id, Person by) {
        store.byId(id).ifPresent(one -> {
            if (!store.change(one, store.secrets(id), clock.instant())) return;
            audit.record(by, "check changed", "check " + one.name(), null, "as it is now is as it should be");
            outposts.asked();
            afterwards();
        });
    }

    /** Switches all checks of a component on or off. */
    @Transactional
    public int switchAll(long component, boolean active, Person by) {
        var now = clock.instant();
        var changed = store.switchAll(component, active, now);
        for (var id : changed) {
            var one = store.byId(id).orElseThrow();
            if (!active) results.forget(one);
            audit.record(
                    by,
                    "check changed",
                    "check " + one.name(),
                    active ? "switched off" : "on",
                    active ? "on" : "switched off");
        }
        outposts.asked();
        afterwards();
        return changed.size();
    }

    /** All of what a scope takes in are made at once, in the running transaction: nobody looked for a while. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void dueNow(Scope scope) {
        var some = estate.components().stream()
                .filter(one -> scope.takes(estate.factsOf(one)))
                .map(Estate.Component::id)
                .toList();
        store.dueNow(some, clock.instant());
        afterwards();
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
