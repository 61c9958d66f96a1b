package app.morvet.core.guard;

import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;

/** What a silence guard measures: how many promised readings have not come. */
final class SilenceCourse {
    private SilenceCourse() {}

    /** More promised readings than this are not counted one by one. */
    static final int MOST_MISSED = 1000;

    static Course of(SilenceGuard guard, Heard heard, long from, long to) {
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
}
