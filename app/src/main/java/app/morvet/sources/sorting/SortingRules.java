package app.morvet.sources.sorting;

import app.morvet.core.sorting.FoldBy;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * The sorting rules. A change gives the whole list as it should be, and the version of it that was seen; the list that is
 * in force is kept in memory, and read again when it was changed, on whatever node.
 */
@Service
public class SortingRules {
    private static final String CHANGED = "sorting-rules";
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(5);

    /** Somebody changed the list meanwhile. */
    public static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        Overtaken() {
            super("Somebody changed the sorting rules since you opened them. Nothing of yours was done.");
        }
    }

    private final RuleStore store;
    private final Estate estate;
    private final Audit audit;
    private final Notices notices;
    private final Clock clock;
    private volatile @Nullable RuleList current;
    private volatile Instant lookedAt = Instant.MIN;
    private final Map<Long, StoredRule> deleted = new ConcurrentHashMap<>();

    SortingRules(RuleStore store, Estate estate, Audit audit, Notices notices, Clock clock) {
        this.store = store;
        this.estate = estate;
        this.audit = audit;
        this.notices = notices;
        this.clock = clock;
        notices.hearOthers(CHANGED, this::forgetNow);
    }

    /** The list in force. */
    public RuleList current() {
        var kept = current;
        var now = clock.instant();
        if (kept != null && lookedAt.plus(LOOKED_AT_EVERY).isAfter(now)) return kept;
        int version = store.version();
        if (kept == null || kept.version() != version) current = kept = RuleList.of(version, store.all());
        lookedAt = now;
        return kept;
    }

    /** As the store has it now, with what each rule did lately. */
    public RuleList fresh() {
        return RuleList.of(store.version(), store.all());
    }

    /** A rule of an id that the store gave out, also one that was deleted since. */
    public StoredRule byId(long id) {
        return current()
                .byId(id)
                .orElseGet(() -> deleted.computeIfAbsent(id, none -> store.byId(id)
                        .orElseThrow(() -> new IllegalArgumentException("there is no sorting rule " + id))));
    }

    public Optional<Estate.Team> owner(StoredRule rule) {
        return Optional.ofNullable(rule.owner()).flatMap(estate::team);
    }

    /** {@code Where error contains "refused": critical, owned by Integration. …} */
    public String sentence(StoredRule rule) {
        var text = new StringBuilder("Where ")
                .append(rule.criteria().words(estate::nameOf))
                .append(": ");
        if (!rule.alerts()) text.append("only count it");
        else {
            text.append("raise ")
                    .append(
                            switch (rule.severity()) {
                                case CRITICAL -> "a critical alert";
                                case WARNING -> "a warning";
                                case NOTICE -> "a notice";
                            });
            text.append(" for each ")
                    .append(
                            rule.foldBy() == FoldBy.RULE
                                    ? "time, over all interfaces"
                                    : rule.foldBy().words());
            text.append(", repeats within ")
                    .append(app.morvet.core.guard.Spans.words(rule.foldFor().length()))
                    .append(" folded");
        }
        owner(rule).ifPresent(team -> text.append("; it belongs to ").append(team.name()));
        if (rule.sendAgain()) text.append("; it may be sent again");
        if (!rule.explainedBy().isEmpty())
            text.append("; open trouble of a needed ")
                    .append(rule.explainedBy().stream().sorted().collect(Collectors.joining(" or ")))
                    .append(" explains it");
        return text.append('.').toString();
    }

    /**
     * Makes the list what is given, where its version is still the one that was seen. Rules with the id 0 are new; the
     * order is the one given; what is left out is deleted.
     *
     * @throws Overtaken                where it is not
     * @throws IllegalArgumentException where the last rule does not take everything, or two have the same name
     */
    @Transactional
    public RuleList change(int seen, List<StoredRule> wanted, Person by) {
        var before = fresh();
        if (before.version() != seen) throw new Overtaken();
        checked(wanted);
        if (!store.nextVersion(seen, clock.instant(), by.id())) throw new Overtaken();
        var kept = write(before.rules(), wanted);
        audit.record(by, "sorting rules changed", "sorting rules", describe(before.rules()), describe(kept));
        forget();
        return RuleList.of(seen + 1, kept);
    }

    /** For what is set up by the application itself: puts rules before the catch-all. */
    @Transactional
    public void set(List<StoredRule> rules) {
        write(store.all(), rules);
        store.nextVersion(store.version(), clock.instant(), null);
        forget();
    }

    private List<StoredRule> write(List<StoredRule> before, List<StoredRule> wanted) {
        var byId = new HashMap<Long, StoredRule>();
        before.forEach(rule -> byId.put(rule.id(), rule));
        // Names may be exchanged between rules, so those that go make room first.
        var staying = wanted.stream().map(StoredRule::id).collect(Collectors.toSet());
        before.stream().filter(rule -> !staying.contains(rule.id())).forEach(rule -> store.delete(rule.id()));
        var kept = new ArrayList<StoredRule>();
        for (int i = 0; i < wanted.size(); i++) {
            var rule = wanted.get(i);
            int place = (i + 1) * 10;
            var was = byId.get(rule.id());
            if (was == null) {
                kept.add(rule.withId(store.add(rule, place)));
                continue;
            }
            if (!rule.doesAs(was)) store.change(rule);
            store.place(rule.id(), place);
            kept.add(rule);
        }
        return kept;
    }

    private static void checked(List<StoredRule> wanted) {
        if (wanted.size() > 500) throw new IllegalArgumentException("at most 500 sorting rules, were " + wanted.size());
        RuleList.of(0, wanted);
        var names = new java.util.HashSet<String>();
        for (var rule : wanted)
            if (!names.add(rule.name()))
                throw new IllegalArgumentException("two sorting rules are called \"" + rule.name() + "\"");
        for (var rule : wanted.subList(0, wanted.size() - 1))
            if (rule.criteria().takesEverything())
                throw new IllegalArgumentException(
                        "\"%s\" has no condition; only the last rule takes everything".formatted(rule.name()));
    }

    private String describe(List<StoredRule> rules) {
        return rules.stream().map(rule -> rule.name() + ": " + sentence(rule)).collect(Collectors.joining("\n"));
    }

    private void forget() {
        notices.tell(CHANGED);
        if (!TransactionSynchronizationManager.isSynchronizationActive()) forgetNow();
        else
            TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                @Override
                public void afterCompletion(int status) {
                    forgetNow();
                }
            });
    }

    private void forgetNow() {
        current = null;
        lookedAt = Instant.MIN;
    }

    /** When each rule was made. */
    public Map<Long, Instant> madeAt() {
        return store.madeAt();
    }

    /** Notes that a rule took messages, up to an instant. */
    public void took(long rule, Instant at) {
        store.took(rule, at);
    }

    /** Notes that a rule had to be stopped. */
    public void stopped(long rule, long times) {
        store.stopped(rule, times, clock.instant());
    }
}
