package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** What a limit guard measures: an amount over a window. */
final class Amounts {
    private static final long MINUTE = 60_000_000;

    private final LimitGuard guard;
    private final Amount amount;
    private final Readings readings;
    private final Sort sort;
    private final long from;
    private final long to;
    private final long length;
    /** Values as whole numbers where all are decimals of few places, so that sums are exact however they are made. */
    private final long @Nullable [] sums;

    private final double scale;

    Amounts(LimitGuard guard, Heard heard, long from, long to) {
        this.guard = guard;
        this.amount = guard.amount();
        this.sort = heard.sort();
        this.from = from;
        this.to = to;
        this.readings = amount.ceiling() == null ? heard.readings() : shares(heard, amount.ceiling());
        this.length = guard.window() instanceof Window.Sliding sliding ? sliding.micros() : 0;
        boolean adds = amount.fold() == Amount.Fold.SUM
                || amount.fold() == Amount.Fold.MEAN
                || sort == Sort.COUNT && amount.fold() == Amount.Fold.RATE;
        var whole = adds ? WholeSums.of(readings.values()) : null;
        this.scale = whole == null ? 0 : whole.scale();
        this.sums = whole == null ? null : whole.sums();
    }

    private static Readings shares(Heard heard, Amount.Ceiling ceiling) {
        var readings = heard.readings();
        var times = new long[readings.size()];
        var values = new double[readings.size()];
        int size = 0;
        for (int i = 0; i < readings.size(); i++) {
            double most =
                    switch (ceiling) {
                        case Amount.Ceiling.Fixed(var value) -> value;
                        case Amount.Ceiling.Measured(var measure) -> {
                            int place = heard.ceiling().firstAfter(readings.times()[i]);
                            yield place == 0 ? 0 : heard.ceiling().values()[place - 1];
                        }
                    };
            if (!(most > 0)) continue;
            times[size] = readings.times()[i];
            values[size++] = 100 * readings.values()[i] / most;
        }
        return new Readings(Arrays.copyOf(times, size), Arrays.copyOf(values, size));
    }

    Course course() {
        var instants = new Instants(from, to);
        instants.addAll(readings, 0);
        switch (guard.window()) {
            case Window.Sliding sliding -> {
                instants.addAll(readings, length);
                // What growth began with is left behind as well.
                if (grows()) instants.addAll(readings, 2 * length);
            }
            case Window.SinceMidnight midnight -> {
                for (var at = midnight.nextMidnight(Micros.instant(from));
                        Micros.of(at) <= to;
                        at = midnight.nextMidnight(at)) instants.add(Micros.of(at));
            }
        }
        var noData = guard.terms().noData();
        if (noData.meaning() != NoData.Meaning.NOTHING) instants.addSilences(readings, Micros.of(noData.after()));
        var times = instants.sorted();
        var course = new Course(times.length);
        int low = 0;
        int high = 0;
        long midnight = Long.MIN_VALUE;
        long nextMidnight = Long.MIN_VALUE;
        for (long at : times) {
            while (high < readings.size() && readings.times()[high] <= at) high++;
            long start;
            if (guard.window() instanceof Window.SinceMidnight day) {
                if (at >= nextMidnight) {
                    midnight = Micros.of(day.openStart(Micros.instant(at)));
                    nextMidnight = Micros.of(day.nextMidnight(Micros.instant(at)));
                }
                start = midnight;
            } else {
                start = at - length;
            }
            while (low < high && readings.times()[low] <= start) low++;
            add(course, at, low, high, start, Measuring.silentAt(noData, readings, high, at));
        }
        return course;
    }

    private void add(Course course, long at, int low, int high, long start, boolean silent) {
        int count = high - low;
        boolean enough = count >= amount.least()
                || sort == Sort.COUNT && amount.least() == 1
                || amount.fold() == Amount.Fold.COUNT && amount.least() == 1;
        double value = enough ? value(low, high, start) : Double.NaN;
        var known = silent ? Known.SILENT : Double.isNaN(value) ? Known.NO : Known.YES;
        if (amount.fold() != Amount.Fold.EACH || byOrder()) course.add(at, value, known);
        else {
            int breached = enough ? level(low, high, false) : 0;
            int held = enough ? level(low, high, true) : 0;
            course.add(at, value, known, breached, held);
        }
    }

    private boolean grows() {
        return sort != Sort.COUNT && (amount.fold() == Amount.Fold.RATE || amount.fold() == Amount.Fold.CHANGE);
    }

    private boolean byOrder() {
        return guard.limits().side() == Side.ABOVE || guard.limits().side() == Side.BELOW;
    }

    private double value(int low, int high, long start) {
        int count = high - low;
        var values = readings.values();
        return switch (amount.fold()) {
            case COUNT -> count;
            case SUM -> sum(low, high);
            case RATE -> perMinute(growth(low, high, start), low, high, start);
            case CHANGE -> growth(low, high, start);
            case LAST -> count == 0 ? 0 : values[high - 1];
            case MEAN ->
                count == 0 ? 0 : sums != null ? (sums[high] - sums[low]) / scale / count : sum(low, high) / count;
            case MIN -> extreme(low, high, -1);
            case MAX -> extreme(low, high, 1);
            case PERCENTILE -> count == 0 ? 0 : Statistics.quantile(sorted(low, high), amount.share());
            case EACH -> count == 0 ? 0 : byOrder() ? order(low, high) : values[high - 1];
        };
    }

    private double sum(int low, int high) {
        if (sums != null) return (sums[high] - sums[low]) / scale;
        double sum = 0;
        for (int i = low; i < high; i++) sum += readings.values()[i];
        return sum;
    }

    private double extreme(int low, int high, int sign) {
        if (low == high) return 0;
        double most = readings.values()[low];
        for (int i = low + 1; i < high; i++)
            most = sign > 0 ? Math.max(most, readings.values()[i]) : Math.min(most, readings.values()[i]);
        return most;
    }

    /** The reading just before the window is where growth in it began, while it is less old than the window is long. */
    private int base(int low, long start) {
        if (low == 0) return low;
        long reach = guard.window() instanceof Window.Sliding ? length : Micros.of(Duration.ofHours(1));
        return start - readings.times()[low - 1] < reach ? low - 1 : low;
    }

    private double growth(int low, int high, long start) {
        var values = readings.values();
        if (sort == Sort.COUNT) return sum(low, high);
        int base = base(low, start);
        if (high - base < 2) return Double.NaN;
        if (sort == Sort.GAUGE) return values[high - 1] - values[base];
        double grown = 0;
        // A counter that is lower than before was restarted: what it shows has all come since.
        for (int i = base + 1; i < high; i++)
            grown += values[i] >= values[i - 1] ? values[i] - values[i - 1] : values[i];
        return grown;
    }

    private double perMinute(double growth, int low, int high, long start) {
        if (Double.isNaN(growth)) return Double.NaN;
        // Up to the newest reading and not to now, so that the value changes with readings and not with the clock.
        long newest = high == 0 ? start : readings.times()[high - 1];
        // Counts since midnight are spread over a minute at the least: one just after midnight is one a minute.
        long span = sort != Sort.COUNT
                ? newest - readings.times()[base(low, start)]
                : guard.window() instanceof Window.Sliding ? length : Math.max(newest - start, MINUTE);
        if (sort == Sort.COUNT && low == high) return 0;
        return span <= 0 ? Double.NaN : growth / (span / (double) MINUTE);
    }

    private double[] sorted(int low, int high) {
        var part = Arrays.copyOfRange(readings.values(), low, high);
        Arrays.sort(part);
        return part;
    }

    /** The reading that decides: so many lie at least as far out that, if it breaches, the share does. */
    private double order(int low, int high) {
        int needed = needed(high - low);
        if (needed == 1) return extreme(low, high, guard.limits().side() == Side.ABOVE ? 1 : -1);
        if (needed == high - low) return extreme(low, high, guard.limits().side() == Side.ABOVE ? -1 : 1);
        var sorted = sorted(low, high);
        return guard.limits().side() == Side.ABOVE ? sorted[sorted.length - needed] : sorted[needed - 1];
    }

    private int needed(int count) {
        return Measuring.needed(amount.share(), count);
    }

    private int level(int low, int high, boolean held) {
        if (low == high) return 0;
        int warning = 0;
        int critical = 0;
        for (int i = low; i < high; i++) {
            double value = readings.values()[i];
            double margin = guard.terms().clearing().margin();
            var level =
                    held ? guard.limits().heldBy(value, margin) : guard.limits().breachedBy(value);
            if (level == null) continue;
            if (level == Severity.CRITICAL) critical++;
            warning++;
        }
        int needed = needed(high - low);
        return critical >= needed ? 2 : warning >= needed ? 1 : 0;
    }
}
