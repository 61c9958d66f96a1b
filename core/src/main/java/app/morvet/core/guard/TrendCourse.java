package app.morvet.core.guard;

import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;
import org.jspecify.annotations.Nullable;

/** What a trend guard measures: how many hours are left until the target is crossed. */
final class TrendCourse {
    private TrendCourse() {}

    static Course of(TrendGuard guard, Heard heard, long from, long to) {
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
            if (Measuring.silentAt(noData, readings, high, at)) course.add(at, Double.NaN, Known.SILENT);
            else if (seen == null) course.add(at, Double.NaN, Known.NO);
            else course.add(at, Measuring.hoursLeft(seen, guard), Known.YES);
        }
        return course;
    }
}
