package app.morvet.core.guard;

import app.morvet.core.guard.Course.Known;
import app.morvet.core.readings.Micros;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What a band guard measures: by how many usual spreads the readings of its window lie off what is usual. */
final class BandCourse {
    private BandCourse() {}

    static Course of(BandGuard guard, Heard heard, long from, long to) {
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
            if (Measuring.silentAt(noData, readings, high, at)) {
                course.add(at, Double.NaN, Known.SILENT);
                continue;
            }
            var part = Arrays.copyOfRange(off, low, high);
            Arrays.sort(part); // NaN is sorted last
            int count = part.length;
            while (count > 0 && Double.isNaN(part[count - 1])) count--;
            if (count == 0) course.add(at, Double.NaN, Known.NO);
            else course.add(at, part[count - Measuring.needed(guard.share(), count)], Known.YES);
        }
        return course;
    }

    private static @Nullable UsualRange usual(
            BandGuard guard, Heard heard, Instant at, Map<Instant, @Nullable UsualRange> learned) {
        var hour = UsualRange.hourOf(at, guard.zone());
        if (!learned.containsKey(hour)) learned.put(hour, heard.seer().usual(heard.past(), hour, guard));
        return learned.get(hour);
    }
}
