package app.morvet.core.guard;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import java.time.Instant;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What can be seen at a glance: that nothing happens up to an instant. Nothing is up, no window is ever empty, and no reading of
 * any window breaches a limit, so that nothing made of them can. Most series are calm most of the time, and this spares them
 * the walk from instant to instant, and the readings being copied; where it sees anything, the walk says what happens.
 */
final class Calm implements ReadingRing.Reader<@Nullable GuardState> {
    private static final int NEAR = 4;

    private final LimitGuard guard;
    private final Window.Sliding window;
    private final GuardState state;
    private final Instant until;

    private Calm(LimitGuard guard, Window.Sliding window, GuardState state, Instant until) {
        this.guard = guard;
        this.window = window;
        this.state = state;
        this.until = until;
    }

    /** Null where a glance is not enough for that guard in that state. */
    static @Nullable Calm of(Guard guard, GuardState state, Sort sort, Instant until) {
        if (state.level() != null || !state.known() || sort == Sort.COUNT) return null;
        if (!(guard instanceof LimitGuard limit && limit.window() instanceof Window.Sliding sliding)) return null;
        var side = limit.limits().side();
        var amount = limit.amount();
        if (side != Side.ABOVE && side != Side.BELOW || !liesBetweenReadings(amount.fold())) return null;
        if (amount.least() > 1 || amount.ceiling() != null || limit.terms().hours() != null) return null;
        return new Calm(limit, sliding, state, until);
    }

    /** Whether it can be no worse than the worst of its readings. */
    private static boolean liesBetweenReadings(Amount.Fold fold) {
        return switch (fold) {
            case LAST, MEAN, MIN, MAX, PERCENTILE -> true;
            case COUNT, SUM, RATE, CHANGE, EACH -> false;
        };
    }

    /** The state at that instant; null where it is not calm until then. */
    @Override
    public @Nullable GuardState read(long[] times, double[] values, int start, int end) {
        long from = Micros.of(state.evaluatedTo());
        long to = Micros.of(until);
        long length = window.micros();
        var noData = guard.terms().noData();
        long longest =
                noData.meaning() == NoData.Meaning.NOTHING ? length : Math.min(length, Micros.of(noData.after()));
        int first = firstAfter(times, start, end, from - length);
        // The first reading must have been in the first window, and the last still be in the last one.
        if (first == end || times[first] > from) return null;
        double limit = guard.limits().mildest().low();
        // A hair inside of the limit, since a mean of values at the limit itself may be rounded over it.
        double hair = Math.abs(limit) * 1e-12;
        boolean above = guard.limits().side() == Side.ABOVE;
        double most = above ? limit - hair : Double.POSITIVE_INFINITY;
        double least = above ? Double.NEGATIVE_INFINITY : limit + hair;
        int fresh = end;
        while (times[fresh - 1] > from) fresh--;
        // How long it was silent before that has been judged.
        long before = times[fresh - 1];
        int last = fresh;
        for (; last < end && times[last] <= to; last++) {
            if (times[last] - before >= longest) return null;
            before = times[last];
        }
        if (to - before >= longest) return null;
        for (int i = first; i < last; i++) if (values[i] >= most || values[i] <= least) return null;
        while (times[first] <= to - length) first++;
        return state.calmAt(until, value(values, first, last));
    }

    /** As {@link Readings#firstAfter}, quick where what nobody looks back to is forgotten. */
    private static int firstAfter(long[] times, int start, int end, long micros) {
        int near = Math.min(end, start + NEAR);
        for (int i = start; i < near; i++) if (times[i] > micros) return i;
        return Readings.firstAfter(times, near, end, micros);
    }

    /** Of a window, which is not empty. */
    private double value(double[] values, int first, int end) {
        return switch (guard.amount().fold()) {
            case MEAN -> WholeSums.sum(values, first, end) / (end - first);
            case MIN -> Arrays.stream(values, first, end).min().orElseThrow();
            case MAX -> Arrays.stream(values, first, end).max().orElseThrow();
            case PERCENTILE -> {
                var sorted = Arrays.copyOfRange(values, first, end);
                Arrays.sort(sorted);
                yield Statistics.quantile(sorted, guard.amount().share());
            }
            default -> values[end - 1];
        };
    }
}
