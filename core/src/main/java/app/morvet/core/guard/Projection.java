package app.morvet.core.guard;

import app.morvet.core.readings.Past;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * Where a series is heading, seen from an instant. The lookback is cut into equal pieces, each told by its median, so that
 * single wild readings do not count. Where a daily rhythm is asked for, what each hour of the day usually differs from its
 * day is taken out first (the median over the days, as in a seasonal decomposition by medians) and put back into what is
 * projected. Through the rest goes a {@linkplain TheilSen robust line}.
 *
 * @param seen   the instant from which it looks
 * @param level  the value of the line at {@code seen}
 * @param line   in the measure's unit an hour
 * @param noise  the spread of the pieces about the line
 * @param rhythm what each hour of the day adds; 24 values, all 0 without a season
 * @param latest the median of the newest piece, as it was measured
 */
public record Projection(
        Instant seen, double level, TheilSen line, double noise, double[] rhythm, double latest, ZoneId zone) {
    /** How far a crossing is looked for. */
    public static final Duration FARTHEST = Duration.ofDays(400);

    private static final int PIECES = 48;
    private static final double HOUR = 3_600_000_000.0;

    /**
     * When a target will be crossed.
     *
     * @param at    the best guess; null when it is not heading there
     * @param early when it may be at the earliest, with 95 % confidence in the slope; null as above
     * @param late  when it may be at the latest; null when it may never be
     */
    public record Crossing(@Nullable Instant at, @Nullable Instant early, @Nullable Instant late) {
        static final Crossing NEVER = new Crossing(null, null, null);
    }

    /** @return null where too little was heard: less than a third of the lookback */
    public static @Nullable Projection of(Past past, Instant seen, TrendGuard guard) {
        var readings = past.between(seen.minus(guard.lookback()), seen);
        int pieces = guard.seasonal() ? Math.clamp(guard.lookback().toHours(), 72, 24 * 14) : PIECES;
        double start = app.morvet.core.readings.Micros.of(seen.minus(guard.lookback()));
        double length = app.morvet.core.readings.Micros.of(guard.lookback()) / (double) pieces;
        var x = new double[pieces];
        var y = new double[pieces];
        int count = 0;
        int at = 0;
        for (int piece = 0; piece < pieces; piece++) {
            double end = start + (piece + 1) * length;
            int first = at;
            while (at < readings.size() && readings.times()[at] < end) at++;
            if (at == first) continue;
            x[count] = ((piece + 0.5) * length - pieces * length) / HOUR;
            y[count] = Statistics.median(Arrays.copyOfRange(readings.values(), first, at));
            count++;
        }
        if (count < Math.max(3, pieces / 3)) return null;
        x = Arrays.copyOf(x, count);
        y = Arrays.copyOf(y, count);
        double latest = y[count - 1];
        var rhythm = new double[24];
        if (guard.seasonal()) rhythm = takeOutRhythm(x, y, seen, guard.zone());
        if (count > PIECES) {
            var few = thin(x, y);
            x = few[0];
            y = few[1];
        }
        var line = TheilSen.of(x, y);
        var rests = new double[x.length];
        for (int i = 0; i < x.length; i++) rests[i] = y[i] - line.intercept() - line.slope() * x[i];
        return new Projection(seen, line.intercept(), line, Statistics.spread(rests, 0), rhythm, latest, guard.zone());
    }

    /** Takes what each hour of the day adds out of {@code y}, and tells it. */
    private static double[] takeOutRhythm(double[] x, double[] y, Instant seen, ZoneId zone) {
        var rough = TheilSen.of(thin(x, y)[0], thin(x, y)[1]);
        var hours = new int[x.length];
        var byHour = new double[24][x.length];
        var counts = new int[24];
        for (int i = 0; i < x.length; i++) {
            hours[i] =
                    seen.plusMillis(Math.round(x[i] * 3_600_000)).atZone(zone).getHour();
            byHour[hours[i]][counts[hours[i]]++] = y[i] - rough.intercept() - rough.slope() * x[i];
        }
        var rhythm = new double[24];
        for (int hour = 0; hour < 24; hour++) {
            if (counts[hour] > 0) rhythm[hour] = Statistics.median(Arrays.copyOf(byHour[hour], counts[hour]));
        }
        for (int i = 0; i < x.length; i++) y[i] -= rhythm[hours[i]];
        return rhythm;
    }

    /** As many points as a line needs: each the median of some neighbours. */
    private static double[][] thin(double[] x, double[] y) {
        int width = Math.max(1, (int) Math.ceil(x.length / (double) PIECES));
        int size = (x.length + width - 1) / width;
        var fewX = new double[size];
        var fewY = new double[size];
        for (int i = 0; i < size; i++) {
            int from = i * width;
            int to = Math.min(x.length, from + width);
            fewX[i] = Statistics.median(Arrays.copyOfRange(x, from, to));
            fewY[i] = Statistics.median(Arrays.copyOfRange(y, from, to));
        }
        return new double[][] {fewX, fewY};
    }

    /** What the line says of a later instant, with the rhythm of its hour. */
    public double valueAt(Instant at) {
        double hours = Duration.between(seen, at).toMillis() / 3_600_000.0;
        return level + line.slope() * hours + rhythm[at.atZone(zone).getHour()];
    }

    /** When it crosses a target. */
    public Crossing crossing(double target, Side side) {
        double sign = side == Side.ABOVE ? 1 : -1;
        if (sign * (latest - target) > 0) return new Crossing(seen, seen, seen);
        double fast = sign > 0 ? line.high() : -line.low();
        double slow = sign > 0 ? line.low() : -line.high();
        var at = after(hours(target, sign, sign * line.slope(), 0));
        if (at == null) return Crossing.NEVER;
        var early = after(hours(target, sign, fast, noise));
        var late = after(hours(target, sign, slow, -noise));
        return new Crossing(at, early == null ? at : early, late);
    }

    private @Nullable Instant after(double hours) {
        return hours <= FARTHEST.toHours() ? seen.plusMillis(Math.round(Math.max(0, hours) * 3_600_000)) : null;
    }

    /** Hours until a line of this slope, lifted a little, crosses the target; infinite where it never does. */
    private double hours(double target, double sign, double slope, double lift) {
        double left = sign * (target - level) - lift;
        double peak = 0;
        for (double one : rhythm) peak = Math.max(peak, sign * one);
        if (peak == 0) {
            if (left <= 0) return 0;
            return slope > 0 ? left / slope : Double.POSITIVE_INFINITY;
        }
        if (left - peak > 0 && slope <= 0) return Double.POSITIVE_INFINITY;
        double hour = left - peak > 0 ? Math.floor((left - peak) / slope) : 0;
        double end = Math.min(hour + (slope > 0 ? peak * 2 / slope + 48 : 48), FARTHEST.toHours() + 1.0);
        for (; hour <= end; hour++) {
            int of = seen.plusMillis(Math.round(hour * 3_600_000)).atZone(zone).getHour();
            if (slope * hour + sign * rhythm[of] >= left) return hour;
        }
        return Double.POSITIVE_INFINITY;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Projection that
                && seen.equals(that.seen)
                && level == that.level
                && line.equals(that.line)
                && noise == that.noise
                && latest == that.latest
                && Arrays.equals(rhythm, that.rhythm);
    }

    @Override
    public int hashCode() {
        return seen.hashCode();
    }
}
