package app.morvet.core.guard;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A replay held against what people said of past cases when they settled them: which real trouble the guard would have
 * told, which it would have missed, and how often it would have called for what was none.
 *
 * @param caught     real trouble during which, or up to {@link #AHEAD} before which, an alert was up
 * @param missed     real trouble that no alert told
 * @param falseCalls alerts that fall only on cases settled as no trouble
 * @param unjudged   alerts on which no settled case lies
 */
public record Hindsight(List<Trouble> caught, List<Trouble> missed, int falseCalls, int unjudged) {
    /** A warning counts as telling of trouble that begins this long after it at the most. */
    public static final Duration AHEAD = Duration.ofHours(1);

    /**
     * A past case, as it was settled.
     *
     * @param subject what it was on; alerts on the same subject tell it
     * @param real    whether it was real trouble
     */
    public record Trouble(long id, long subject, Instant from, Instant to, boolean real) {}

    /** An alert and the subjects it is about. */
    public record Call(long subject, Instant from, @Nullable Instant to) {}

    public static Hindsight of(List<Call> calls, List<Trouble> troubles, Instant end) {
        var caught = new ArrayList<Trouble>();
        var missed = new ArrayList<Trouble>();
        for (var trouble : troubles) {
            if (!trouble.real()) continue;
            (calls.stream().anyMatch(call -> meets(call, trouble, end)) ? caught : missed).add(trouble);
        }
        int falseCalls = 0;
        int unjudged = 0;
        for (var call : calls) {
            var met = troubles.stream()
                    .filter(trouble -> meets(call, trouble, end))
                    .toList();
            if (met.isEmpty()) unjudged++;
            else if (met.stream().noneMatch(Trouble::real)) falseCalls++;
        }
        return new Hindsight(List.copyOf(caught), List.copyOf(missed), falseCalls, unjudged);
    }

    private static boolean meets(Call call, Trouble trouble, Instant end) {
        var over = call.to() == null ? end : call.to();
        return call.subject() == trouble.subject()
                && !call.from().isAfter(trouble.to())
                && !over.plus(AHEAD).isBefore(trouble.from());
    }
}
