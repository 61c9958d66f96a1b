package app.morvet.sources.sorting;

import app.morvet.core.sorting.Candidate;
import app.morvet.core.sorting.Reach;
import app.morvet.core.sorting.Sorter;
import java.util.List;
import java.util.Optional;

/**
 * The sorting rules in order, ready to sort.
 *
 * @param version of the list
 */
public record RuleList(int version, List<StoredRule> rules, Sorter sorter) {
    public static RuleList of(int version, List<StoredRule> rules) {
        return new RuleList(
                version,
                List.copyOf(rules),
                new Sorter(rules.stream().map(StoredRule::criteria).toList()));
    }

    /** @param stopped rules that were stopped on the way */
    public record Taken(StoredRule by, List<StoredRule> stopped) {}

    public Taken sort(Candidate message) {
        var sorted = sorter.sort(message);
        return new Taken(
                rules.get(sorted.rule()),
                sorted.stopped().stream().map(rules::get).toList());
    }

    public Optional<StoredRule> byId(long id) {
        return rules.stream().filter(one -> one.id() == id).findFirst();
    }

    public StoredRule catchAll() {
        return rules.getLast();
    }

    /** Which of them can take anything, in their order. A rule that had to be stopped keeps nothing from those after it. */
    public List<Reach.Finding> reach() {
        return Reach.of(
                rules.stream().map(StoredRule::criteria).toList(),
                place -> rules.get(place).stopped() == 0);
    }
}
