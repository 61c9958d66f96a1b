package app.morvet.core.sorting;

import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Truth;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a sorting rule takes: conditions, and how they are joined.
 *
 * @param conditions at most eight; none takes everything
 * @param joined     the conditions by letter, {@code a and not (b or c)}; null where all must hold
 */
public record Criteria(List<Condition> conditions, @Nullable Expression joined) {
    public static final int MOST = 8;
    public static final Criteria EVERYTHING = new Criteria(List.of(), null);

    public Criteria {
        conditions = List.copyOf(conditions);
        if (conditions.size() > MOST)
            throw new IllegalArgumentException("at most %d conditions, were %d".formatted(MOST, conditions.size()));
        if (joined != null && joined.highest() >= conditions.size())
            throw new IllegalArgumentException("\"%s\" names condition %c, there are %d"
                    .formatted(joined.text(), (char) ('a' + joined.highest()), conditions.size()));
    }

    public boolean takesEverything() {
        return conditions.isEmpty();
    }

    /** Whether a message is taken. Each condition is asked at most once, and only when it is needed. */
    public Truth of(Candidate message) {
        return of((Condition one) -> one.of(message));
    }

    /** Whether there may be a message of an interface, by its key, that is taken: of all else in it nothing is known. */
    public boolean mayTakeOn(String interfaceKey) {
        return of(one -> one instanceof Condition.OnInterface(var keys)
                        ? keys.contains(interfaceKey) ? Truth.TRUE : Truth.FALSE
                        : Truth.UNKNOWN)
                != Truth.FALSE;
    }

    private Truth of(Function<Condition, Truth> answer) {
        if (joined != null) {
            var answers = new Truth[conditions.size()];
            return joined.of(index -> {
                if (answers[index] == null) answers[index] = answer.apply(conditions.get(index));
                return answers[index];
            });
        }
        var all = Truth.TRUE;
        for (var condition : conditions) {
            all = all.and(answer.apply(condition));
            if (all == Truth.FALSE) return all;
        }
        return all;
    }

    /** {@code step is "deliver" and error contains "refused"}. */
    public String words(UnaryOperator<String> interfaceName) {
        if (conditions.isEmpty()) return "every failed message";
        if (joined == null)
            return conditions.stream().map(one -> one.words(interfaceName)).collect(Collectors.joining(" and "));
        return joined.text(index -> conditions.get(index).words(interfaceName));
    }

    /** A condition, or the opposite of one. */
    record Literal(Condition condition, boolean holds) {
        boolean implies(Literal other) {
            if (holds && other.holds) return condition.implies(other.condition);
            if (!holds && !other.holds) return other.condition.implies(condition);
            return holds && condition.excludes(other.condition);
        }

        boolean contradicts(Literal other) {
            if (holds && other.holds) return condition.excludes(other.condition);
            return holds != other.holds
                    && (holds ? condition.implies(other.condition) : other.condition.implies(condition));
        }
    }

    private static final int MOST_CLAUSES = 256;

    /**
     * As alternatives of literals that hold together (disjunctive normal form), the impossible ones left out; null where
     * there would be too many.
     */
    @Nullable
    List<List<Literal>> clauses() {
        List<List<Literal>> all;
        if (joined == null) {
            all = List.of(conditions.stream().map(one -> new Literal(one, true)).toList());
        } else {
            all = clauses(joined, true);
        }
        return all == null ? null : all.stream().filter(Criteria::possible).toList();
    }

    private static boolean possible(List<Literal> clause) {
        for (var one : clause) for (var other : clause) if (one != other && one.contradicts(other)) return false;
        return true;
    }

    private @Nullable List<List<Literal>> clauses(Expression expression, boolean holds) {
        return switch (expression) {
            case Expression.Member(int index) -> List.of(List.of(new Literal(conditions.get(index), holds)));
            case Expression.Not(var inner) -> clauses(inner, !holds);
            case Expression.Joined(boolean and, var parts) -> {
                List<List<Literal>> sum = and == holds ? List.of(List.of()) : List.of();
                for (var part : parts) {
                    var more = clauses(part, holds);
                    if (more == null) yield null;
                    sum = and == holds ? product(sum, more) : both(sum, more);
                    if (sum.size() > MOST_CLAUSES) yield null;
                }
                yield sum;
            }
        };
    }

    private static List<List<Literal>> both(List<List<Literal>> one, List<List<Literal>> other) {
        var sum = new ArrayList<>(one);
        sum.addAll(other);
        return sum;
    }

    private static List<List<Literal>> product(List<List<Literal>> one, List<List<Literal>> other) {
        var product = new ArrayList<List<Literal>>();
        for (var left : one) {
            for (var right : other) {
                var joint = new ArrayList<>(left);
                joint.addAll(right);
                product.add(joint);
            }
        }
        return product;
    }
}
