package app.morvet.core.guard;

import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What guards measure on a series. The value at an instant depends on the readings around that instant only, never on
 * where the measuring began, so cutting a stretch of time anywhere gives the same values.
 */
public final class Measuring {
    /** More promised readings than this are not counted one by one. */
    static final int MOST_MISSED = 1000;

    private static final long MINUTE = 60_000_000;

    private Measuring() {}

    /**
     * The course of a guard's value from an instant on: a point at {@code from}, and one at each later instant up to
     * and at {@code to} at which the value may change.
     *
     * @throws IllegalArgumentException for a combination, which measures no series
     */
    public static Course course(Guard guard, Heard heard, Instant from, Instant to) {
        long start = Micros.of(from);
        long end = Micros.of(to);
        var course =
                switch (guard) {
                    case LimitGuard it -> new Amounts(it, heard, start, end).course();
                    case SilenceGuard it -> silence(it, heard, start, end);
                    case TrendGuard it -> trend(it, heard, start, end);
                    case BandGuard it -> band(it, heard, start, end);
                    case CombinationGuard it ->
                        throw new IllegalArgumentException("a combination is measured by its members");
                };
        return hours(guard.terms().hours(), course, start, end);
    }

    /**
     * Whether it can be seen at a glance that nothing happens up to an instant: nothing is up, no window is ever empty, and no
     * reading of any window breaches a limit, so that nothing made of them can. Most series are calm most of the time, and
     * this spares them the walk from instant to instant; where it says no, the walk says what happens.
     */
    static boolean staysCalm(LimitGuard guard, GuardState state, Heard heard, Instant until) {
        var fold = guard.amount().fold();
        boolean between = fold == Amount.Fold.LAST
                || fold == Amount.Fold.MEAN
                || fold == Amount.Fold.MIN
                || fold == Amount.Fold.MAX
                || fold == Amount.Fold.PERCENTILE;
        var side = guard.limits().side();
        if (state.level() != null || !state.known() || !between || heard.sort() == Sort.COUNT) return false;
        if (!(guard.window() instanceof Window.Sliding sliding) || side != Side.ABOVE && side != Side.BELOW)
            return false;
        if (guard.amount().least() > 1
                || guard.amount().ceiling() != null
                || guard.terms().hours() != null) return false;
        var noData = guard.terms().noData();
        long longest = noData.meaning() == NoData.Meaning.NOTHING
                ? sliding.micros()
                : Math.min(sliding.micros(), Micros.of(noData.after()));
        var readings = heard.readings();
        long end = Micros.of(until);
        // A hair inside of the limit, since a mean of values at the limit itself may be rounded over it.
        double hair = Math.abs(guard.limits().mildest().low()) * 1e-12;
        double limit = guard.limits().mildest().low() + (side == Side.ABOVE ? -hair : hair);
        int first = readings.firstAfter(Micros.of(state.evaluatedTo()) - sliding.micros());
        long before = Long.MIN_VALUE;
        for (int i = first; i < readings.size() && readings.times()[i] <= end; i++) {
            double value = readings.values()[i];
            if (side == Side.ABOVE ? value >= limit : value <= limit) return false;
            if (before != Long.MIN_VALUE && readings.times()[i] - before >= longest) return false;
            before = readings.times()[i];
        }
        // The first reading must have been in the first window, and the last still be in the last one.
        return before != Long.MIN_VALUE
                && readings.times()[first] <= Micros.of(state.evaluatedTo())
                && end - before < longest;
    }

    /** The value of a limit guard at one instant. */
    static double valueAt(LimitGuard guard, Heard heard, Instant at) {
        long micros = Micros.of(at);
        return new Amounts(guard, heard, micros, micros).valueAt(micros);
    }

    /**
     * Instants at which a value may change, sorted, each once, after the first. Readings are in order already, so what is made
     * of them is merged in; the few others are sorted in the end.
     */
    private static final class Instants {
        private final long from;
        private final long to;
        private long[] merged;
        private int size = 1;
        private long[] loose = new long[16];
        private int few;

        Instants(long from, long to) {
            this.from = from;
            this.to = to;
            this.merged = new long[] {from};
        }

        void add(long at) {
            if (at <= from || at > to) return;
            if (few == loose.length) loose = Arrays.copyOf(loose, few * 2);
            loose[few++] = at;
        }

        /** All times in the readings, moved by a distance. */
        void addAll(Readings readings, long moved) {
            merge(readings.times(), readings.firstAfter(from - moved), readings.firstAfter(to - moved), moved);
        }

        private void merge(long[] run, int low, int high, long moved) {
            if (low >= high) return;
            var both = new long[size + high - low];
            int kept = 0;
            int left = 0;
            int right = low;
            while (left < size || right < high) {
                long next;
                if (right == high || left < size && merged[left] <= run[right] + moved) next = merged[left++];
                else next = run[right++] + moved;
                if (kept == 0 || both[kept - 1] != next) both[kept++] = next;
            }
            merged = both;
            size = kept;
        }

        /** Where silence begins to mean something, after a reading that no other follows in time; and where it ends. */
        void addSilences(Readings readings, long after) {
            int low = Math.max(0, readings.firstAfter(from - after) - 1);
            int high = readings.firstAfter(to - after);
            for (int i = low; i < high; i++) {
                boolean last = i + 1 >= readings.size();
                if (!last && readings.times()[i + 1] <= readings.times()[i] + after) continue;
                add(readings.times()[i] + after);
                if (!last) add(readings.times()[i + 1]);
            }
        }

        long[] sorted() {
            Arrays.sort(loose, 0, few);
            merge(loose, 0, few, 0);
            return size == merged.length ? merged : Arrays.copyOf(merged, size);
        }
    }

    private static boolean silentAt(NoData noData, Readings readings, int upTo, long at) {
        return noData.meaning() != NoData.Meaning.NOTHING
                && upTo > 0
                && at - readings.times()[upTo - 1] >= Micros.of(noData.after());
    }

    /**
     * Sums of the first values, as whole numbers of a scale.
     *
     * @param sums one more than there are values
     */
    private record WholeSums(double scale, long[] sums) {
        private static final double FINEST = 10_000;
        private static final double LARGEST = 1e9;

        /** Null where a value is no decimal of four places or is too large. */
        static @Nullable WholeSums of(double[] values) {
            var sums = new long[values.length + 1];
            double scale = 1;
            int i = 0;
            while (i < values.length) {
                double value = values[i];
                double whole = Math.rint(value * scale);
                if (whole / scale == value) {
                    if (Math.abs(value) > LARGEST) return null;
                    sums[i + 1] = sums[i] + (long) whole;
                    i++;
                } else {
                    // A finer scale, from the beginning again.
                    scale *= 10;
                    if (scale > FINEST) return null;
                    i = 0;
                }
            }
            return new WholeSums(scale, sums);
        }
    }

    /** The limit guard. */
    private static final class Amounts {
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

        double valueAt(long at) {
            long start = at - length;
            return value(readings.firstAfter(start), readings.firstAfter(at), start);
        }

        Course course() {
            var instants = new Instants(from, to);
            instants.addAll(readings, 0);
            switch (guard.window()) {
                case Window.Sliding sliding -> instants.addAll(readings, length);
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
                add(course, at, low, high, start, silentAt(noData, readings, high, at));
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

        /** The reading just before the window is where growth in it began, if it is not older than the window is long. */
        private int base(int low, long start) {
            if (low == 0) return low;
            long reach = guard.window() instanceof Window.Sliding ? length : Micros.of(java.time.Duration.ofHours(1));
            return start - readings.times()[low - 1] <= reach ? low - 1 : low;
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
                var level = held
                        ? guard.limits().heldBy(value, margin)
                        : guard.limits().breachedBy(value);
                if (level == null) continue;
                if (level == app.morvet.core.alert.Severity.CRITICAL) critical++;
                warning++;
            }
            int needed = needed(high - low);
            return critical >= needed ? 2 : warning >= needed ? 1 : 0;
        }
    }

    /** How many of so many readings are a share: at least one. */
    private static int needed(double share, int count) {
        return Math.clamp((long) Math.ceil(share * count - 1e-9), 1, count);
    }

    private static Course silence(SilenceGuard guard, Heard heard, long from, long to) {
        var readings = heard.readings();
        long cadence = Math.max(1, Micros.of(heard.cadence()));
        var instants = new Instants(from, to);
        instants.addAll(readings, 0);
        // Counted up to where the farther limit is passed: what is more makes no difference.
        var critical = guard.limits().critical();
        var farthest = critical != null ? critical : guard.limits().mildest();
        long most = Math.min(MOST_MISSED, (long) Math.floor(farthest.low()) + 1);
        for (long missed = 1; missed <= most; missed++) instants.addSilences(readings, missed * cadence + cadence / 2);
        var course = new Course(16);
        int high = 0;
        for (long at : instants.sorted()) {
            while (high < readings.size() && readings.times()[high] <= at) high++;
            if (high == 0) {
                course.add(at, Double.NaN, Known.NO);
                continue;
            }
            long late = at - readings.times()[high - 1] - cadence / 2;
            course.add(at, Math.clamp(Math.floorDiv(late, cadence), 0, most), Known.YES);
        }
        return course;
    }

    private static Course trend(TrendGuard guard, Heard heard, long from, long to) {
        long grid = Micros.of(guard.grid());
        var noData = guard.terms().noData();
        var instants = new Instants(from, to);
        for (long at = (Math.floorDiv(from, grid) + 1) * grid; at <= to; at += grid) instants.add(at);
        if (noData.meaning() != NoData.Meaning.NOTHING)
            instants.addSilences(heard.readings(), Micros.of(noData.after()));
        var course = new Course(16);
        int high = 0;
        var readings = heard.readings();
        long seenAt = Long.MIN_VALUE;
        @Nullable Projection seen = null;
        for (long at : instants.sorted()) {
            while (high < readings.size() && readings.times()[high] <= at) high++;
            long place = Math.floorDiv(at, grid) * grid;
            if (place != seenAt) {
                seenAt = place;
                seen = heard.seer().of(heard.past(), Micros.instant(place), guard);
            }
            if (silentAt(noData, readings, high, at)) course.add(at, Double.NaN, Known.SILENT);
            else if (seen == null) course.add(at, Double.NaN, Known.NO);
            else course.add(at, hoursLeft(seen, guard), Known.YES);
        }
        return course;
    }

    /** Hours until the target is crossed, infinite where the projection does not head there. */
    public static double hoursLeft(Projection seen, TrendGuard guard) {
        var at = seen.crossing(guard.target(), guard.side()).at();
        return at == null
                ? Double.POSITIVE_INFINITY
                : java.time.Duration.between(seen.seen(), at).toSeconds() / 3600.0;
    }

    private static Course band(BandGuard guard, Heard heard, long from, long to) {
        var readings = heard.readings();
        long length = Micros.of(guard.window());
        var noData = guard.terms().noData();
        var instants = new Instants(from, to);
        instants.addAll(readings, 0);
        instants.addAll(readings, length);
        if (noData.meaning() != NoData.Meaning.NOTHING) instants.addSilences(readings, Micros.of(noData.after()));
        var times = instants.sorted();
        int first = readings.firstAfter(from - length);
        var off = new double[readings.size()];
        var learned = new HashMap<Instant, @Nullable UsualRange>();
        for (int i = first; i < readings.size() && readings.times()[i] <= to; i++) {
            var usual = usual(guard, heard, Micros.instant(readings.times()[i]), learned);
            off[i] = usual == null ? Double.NaN : usual.off(readings.values()[i], guard.side());
        }
        var course = new Course(times.length);
        int low = first;
        int high = first;
        for (long at : times) {
            while (high < readings.size() && readings.times()[high] <= at) high++;
            while (low < high && readings.times()[low] <= at - length) low++;
            if (silentAt(noData, readings, high, at)) {
                course.add(at, Double.NaN, Known.SILENT);
                continue;
            }
            var part = Arrays.copyOfRange(off, low, high);
            Arrays.sort(part); // NaN is sorted last
            int count = part.length;
            while (count > 0 && Double.isNaN(part[count - 1])) count--;
            if (count == 0) course.add(at, Double.NaN, Known.NO);
            else course.add(at, part[count - needed(guard.share(), count)], Known.YES);
        }
        return course;
    }

    private static @Nullable UsualRange usual(
            BandGuard guard, Heard heard, Instant at, Map<Instant, @Nullable UsualRange> learned) {
        var hour = UsualRange.hourOf(at, guard.zone());
        if (!learned.containsKey(hour))
            learned.put(hour, UsualRange.learn(heard.past(), hour, guard.weeks(), guard.zone()));
        return learned.get(hour);
    }

    /** Lays the hours in which a guard applies over its course. */
    static Course hours(@Nullable Hours hours, Course course, long from, long to) {
        if (hours == null) return course;
        var edges = new Instants(from, to);
        hours.eachEdge(from, to, edges::add);
        var laid = new Course(course.size() + 16);
        int next = 0;
        for (long edge : edges.sorted()) {
            for (; next < course.size() && course.micros(next) < edge; next++)
                lay(hours, course, next, course.micros(next), laid);
            if (next < course.size() && course.micros(next) == edge) lay(hours, course, next++, edge, laid);
            else if (next > 0) lay(hours, course, next - 1, edge, laid);
        }
        for (; next < course.size(); next++) lay(hours, course, next, course.micros(next), laid);
        return laid;
    }

    private static void lay(Hours hours, Course course, int index, long at, Course laid) {
        var known = hours.apply(Micros.instant(at)) ? course.known(index) : Known.OFF;
        if (course.breached(index) < 0) laid.add(at, course.value(index), known);
        else laid.add(at, course.value(index), known, course.breached(index), course.held(index));
    }
}
