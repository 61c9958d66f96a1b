package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import java.time.Duration;
import java.util.List;

/**
 * Watches other guards on the same subject: up to eight, joined by <em>and</em>, <em>or</em>, <em>not</em>. Its value is
 * 1 while the expression is true and 0 while it is false; while it is unknown nothing changes.
 *
 * @param expression over the members, named {@code a} to {@code h} in their order
 * @param members    ids of the guards
 * @param severity   of the alert
 * @param silent     whether the members keep silent by themselves
 */
public record CombinationGuard(
        Expression expression, List<Long> members, Severity severity, boolean silent, Terms terms) implements Guard {
    public static final int MOST = 8;

    public CombinationGuard {
        members = List.copyOf(members);
        if (members.isEmpty() || members.size() > MOST) {
            throw new IllegalArgumentException("a combination has 1 to 8 guards, were " + members.size());
        }
        if (members.stream().distinct().count() < members.size()) {
            throw new IllegalArgumentException("a guard stands twice in the combination");
        }
        int highest = expression.highest();
        if (highest >= members.size()) {
            throw new IllegalArgumentException("the expression names \"%s\", but there are only %d guards"
                    .formatted((char) ('a' + highest), members.size()));
        }
        if (severity == Severity.NOTICE) throw new IllegalArgumentException("a combination warns or is critical");
    }

    @Override
    public Limits limits() {
        var line = Limit.above(0.5);
        return severity == Severity.CRITICAL ? new Limits(null, line) : new Limits(line, null);
    }

    /** A combination has no limits of its own. */
    @Override
    public Guard withLimits(Limits other) {
        return this;
    }

    @Override
    public Duration reach() {
        return Duration.ofMinutes(1);
    }
}
