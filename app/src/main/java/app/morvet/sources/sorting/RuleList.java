package app.morvet.sources.sorting;

import app.morvet.core.sorting.Candidate;
import app.morvet.core.sorting.Sorter;
import java.util.List;
import java.util.Optional;

/**
 * The sorting rules in order, ready to sort.
 *
 * @param version of the list
 */
public record RuleList(int version, List<StandingRule> rules, Sorter sorter) {
    public static RuleList of(int version, List<StandingRule> rules) {
        return new RuleList(
                version,
                List.copyOf(rules),
                new Sorter(rules.stream().map(StandingRule::criteria).toList()));
    }

    /** @param stopped rules that were stopped on the way */
    public record Taken(StandingRule by, List<StandingRule> stopped) {}

    public Taken sort(Candidate message) {
        var sorted = sorter.sort(message);
        return new Taken(
                rules.get(sorted.rule()),
                sorted.stopped().stream().map(rules::get).toList());
    }

    public Optional<StandingRule> byId(long id) {
        return rules.stream().filter(one -> one.id() == id).findFirst();
    }

    public StandingRule catchAll() {
        return rules.getLast();
    }
}
