package app.morvet.core.sorting;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/**
 * Which rules of an ordered list can take anything at all. Sound, not complete: what it calls unreachable is so, and
 * whatever it cannot prove it calls reachable.
 */
public final class Reach {
    /**
     * What is in the way of a rule.
     *
     * @param byItself  whether its own conditions can never hold together
     * @param takenBy   places, from 0, of the earlier rules that take all of it; empty where it can be reached
     */
    public record Finding(boolean byItself, List<Integer> takenBy) {
        public boolean reachable() {
            return !byItself && takenBy.isEmpty();
        }
    }

    private static final Finding REACHABLE = new Finding(false, List.of());

    private Reach() {}

    /**
     * One finding for each rule, in their order. An earlier rule may be not known to hold where a payload cannot be read;
     * one that asks for the payload therefore takes nothing away from a later rule that does not ask for the same.
     *
     * @param rules what each takes, in order; a rule after one that takes everything is never reached
     */
    public static List<Finding> of(List<Criteria> rules) {
        return of(rules, place -> true);
    }

    /**
     * @param whole whether the rule at a place takes all that it means; one that had to be stopped leaves some to those after it,
     *              and keeps nothing from them
     */
    public static List<Finding> of(List<Criteria> rules, IntPredicate whole) {
        var findings = new ArrayList<Finding>();
        var earlier = new ArrayList<@Nullable List<List<Criteria.Literal>>>();
        for (var rule : rules) {
            var clauses = rule.clauses();
            findings.add(clauses == null ? REACHABLE : finding(clauses, earlier));
            earlier.add(whole.test(earlier.size()) ? clauses : null);
        }
        return findings;
    }

    private static Finding finding(
            List<List<Criteria.Literal>> clauses, List<@Nullable List<List<Criteria.Literal>>> earlier) {
        if (clauses.isEmpty()) return new Finding(true, List.of());
        var takers = new ArrayList<Integer>();
        for (var clause : clauses) {
            int taker = taker(clause, earlier);
            if (taker < 0) return REACHABLE;
            if (!takers.contains(taker)) takers.add(taker);
        }
        return new Finding(false, takers.stream().sorted().toList());
    }

    private static int taker(List<Criteria.Literal> clause, List<@Nullable List<List<Criteria.Literal>>> earlier) {
        for (int place = 0; place < earlier.size(); place++) {
            var clauses = earlier.get(place);
            if (clauses != null && clauses.stream().anyMatch(other -> implies(clause, other))) return place;
        }
        return -1;
    }

    private static boolean implies(List<Criteria.Literal> clause, List<Criteria.Literal> other) {
        return other.stream().allMatch(wanted -> clause.stream().anyMatch(has -> has.implies(wanted)));
    }
}
