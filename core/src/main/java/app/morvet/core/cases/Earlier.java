package app.morvet.core.cases;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;

/**
 * Which cases that were there before turn out to be explained by one that opens: what needs it was in trouble first, and the cause is heard
 * of some minutes later. Only what nobody works on yet is moved by itself, only all of it, and only what began shortly before: of what has
 * been failing for days a cause that began now is no cause.
 */
public final class Earlier {
    /** So long before. */
    public static final Duration BEFORE = Duration.ofHours(1);

    private Earlier() {}

    /**
     * @param began       when it opened
     * @param untouched   whether it is new, and neither returned nor quiet nor over
     * @param explainedBy for each of its alerts that are up the open case that explains it; 0 where none does. What explains others in the same
     *                    case names that case
     */
    public record Known(long id, Instant began, boolean untouched, List<Long> explainedBy) {}

    /**
     * The ids of those that become part of it, in order.
     *
     * @param opened when the one that explains them did
     */
    public static List<Long> explained(Collection<Known> cases, long by, Instant opened) {
        return cases.stream()
                .filter(one -> one.id() != by && one.untouched())
                .filter(one -> !one.began().isBefore(opened.minus(BEFORE)))
                .filter(one -> one.explainedBy().contains(by)
                        && one.explainedBy().stream().allMatch(it -> it == by || it == one.id()))
                .map(Known::id)
                .sorted()
                .toList();
    }
}
