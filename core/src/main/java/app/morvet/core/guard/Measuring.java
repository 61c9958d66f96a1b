package app.morvet.core.guard;

import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What guards measure on a series. The value at an instant depends on the readings around that instant only, never on
 * where the measuring began, so cutting a stretch of time anywhere gives the same values.
 */
public final class Measuring {
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
                    case SilenceGuard it -> SilenceCourse.of(it, heard, start, end);
                    case TrendGuard it -> TrendCourse.of(it, heard, start, end);
                    case BandGuard it -> BandCourse.of(it, heard, start, end);
                    case StateGuard it -> StateCourse.of(it, heard, start, end);
                    case CombinationGuard it ->
                        throw new IllegalArgumentException("a combination is measured by its members");
                };
        return hours(guard.terms().hours(), course, start, end);
    }

    static boolean silentAt(NoData noData, Readings readings, int upTo, long at) {
        return noData.meaning() != NoData.Meaning.NOTHING
                && upTo > 0
                && at - readings.times()[upTo - 1] >= Micros.of(noData.after());
    }

    /** How many of so many readings are a share: at least one. */
    static int needed(double share, int count) {
        return Math.clamp((long) Math.ceil(share * count - 1e-9), 1, count);
    }

    /** Hours until the target is crossed, infinite where the projection does not head there. */
    public static double hoursLeft(Projection seen, TrendGuard guard) {
        var at = seen.crossing(guard.target(), guard.side()).at();
        return at == null
                ? Double.POSITIVE_INFINITY
                : Duration.between(seen.seen(), at).toSeconds() / 3600.0;
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
