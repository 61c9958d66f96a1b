package app.morvet.core.vendors;

import app.morvet.core.states.StateTrack;
import app.morvet.core.windows.Plan;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;

/**
 * For how much of a span something served: of the time in which it is known what it was in, and in which no work was planned.
 *
 * @param share from 0 to 1; NaN where nothing was known
 * @param known how much of the span that is
 * @param down  for how long of that it did not serve
 */
public record Availability(double share, Duration known, Duration down) {
    /**
     * @param stretches that do not overlap, in any order; a word of null is time of which nothing is known
     * @param serves    which words count as serving
     * @param planned   times that are left out; they may overlap
     */
    public static Availability of(
            List<StateTrack.Stretch> stretches,
            Predicate<String> serves,
            List<Plan.Span> planned,
            Instant from,
            Instant to) {
        var known = Duration.ZERO;
        var down = Duration.ZERO;
        for (var one : stretches) {
            if (one.word() == null) continue;
            var begin = one.from().isBefore(from) ? from : one.from();
            var end = one.to().isAfter(to) ? to : one.to();
            if (!begin.isBefore(end)) continue;
            var counted = Duration.between(begin, end).minus(within(begin, end, planned));
            known = known.plus(counted);
            if (!serves.test(one.word())) down = down.plus(counted);
        }
        double share = known.isZero() ? Double.NaN : 1 - (double) down.toMillis() / known.toMillis();
        return new Availability(share, known, down);
    }

    /** How much of a span lies in any of some others. */
    private static Duration within(Instant from, Instant to, List<Plan.Span> others) {
        var met = new ArrayList<>(
                others.stream().filter(one -> one.meets(from, to)).toList());
        met.sort(Comparator.comparing(Plan.Span::from));
        var sum = Duration.ZERO;
        var reached = from;
        for (var one : met) {
            var begin = one.from().isBefore(reached) ? reached : one.from();
            var end = one.to().isAfter(to) ? to : one.to();
            if (!begin.isBefore(end)) continue;
            sum = sum.plus(Duration.between(begin, end));
            reached = end;
        }
        return sum;
    }
}
