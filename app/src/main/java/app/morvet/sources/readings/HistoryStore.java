package app.morvet.sources.readings;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.PackedReadings;
import app.morvet.core.readings.Reading;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Repository;

/** The SQL by which stored readings are read, from sealed days and hot rows. */
@Repository
class HistoryStore {
    private final JdbcTemplate template;

    HistoryStore(JdbcTemplate template) {
        this.template = template;
    }

    /** The readings of some series at and after {@code from} and before {@code to}; those that have none are left out. */
    Map<Long, Readings> between(Collection<Long> series, Instant from, Instant to) {
        var ids = series.toArray(Long[]::new);
        // The hot ones first: a day that is sealed in between is read twice, and not missed.
        var hot = new HashMap<Long, ReadingRing>();
        template.query(
                """
                select series_id, at, value from reading
                 where series_id = any(?) and at >= ? and at < ? order by series_id, at""",
                row -> {
                    hot.computeIfAbsent(row.getLong(1), none -> new ReadingRing())
                            .add(row.getTimestamp(2).toInstant(), row.getDouble(3));
                },
                ids,
                Stamp.of(from),
                Stamp.of(to));
        var sealed = new HashMap<Long, Merge>();
        template.query(
                """
                select series_id, packed from sealed_day
                 where series_id = any(?) and day > ? and day < ? order by series_id, day""",
                row -> {
                    sealed.computeIfAbsent(row.getLong(1), none -> new Merge(Micros.of(from), Micros.of(to)))
                            .add(PackedReadings.unpack(row.getBytes(2)));
                },
                ids,
                Stamp.of(from.minusSeconds(86_400)),
                Stamp.of(to));
        var found = new HashMap<Long, Readings>();
        sealed.forEach((id, merge) -> found.put(id, merge.all()));
        hot.forEach((id, ring) -> found.merge(id, ring.all(), HistoryStore::merged));
        return found;
    }

    /** A day of a series: what is sealed of it, and the readings that were not. */
    Readings withSealed(long series, Instant day, Readings hot) {
        var sealed = template.query(
                "select packed from sealed_day where series_id = ? and day = ?",
                (row, number) -> PackedReadings.unpack(row.getBytes(1)),
                series,
                Stamp.of(day));
        return sealed.isEmpty() ? hot : merged(sealed.getFirst(), hot);
    }

    /** The newest reading since an instant that is not sealed yet. */
    Optional<Reading> newest(long series, Instant since) {
        return template
                .query(
                        "select at, value from reading where series_id = ? and at >= ? order by at desc limit 1",
                        (row, number) -> new Reading(Stamp.in(row, "at"), row.getDouble("value")),
                        series,
                        Stamp.of(since))
                .stream()
                .findFirst();
    }

    /** Sealed days in order, cut to a span. */
    private static final class Merge {
        private final long from;
        private final long to;
        private final List<Readings> parts = new ArrayList<>();
        private int size;

        Merge(long from, long to) {
            this.from = from;
            this.to = to;
        }

        void add(Readings readings) {
            int low = readings.firstAfter(from - 1);
            int high = Math.max(low, readings.firstAfter(to - 1));
            if (low == high) return;
            boolean whole = low == 0 && high == readings.size();
            parts.add(
                    whole
                            ? readings
                            : new Readings(
                                    Arrays.copyOfRange(readings.times(), low, high),
                                    Arrays.copyOfRange(readings.values(), low, high)));
            size += high - low;
        }

        Readings all() {
            var times = new long[size];
            var values = new double[size];
            int at = 0;
            for (var part : parts) {
                System.arraycopy(part.times(), 0, times, at, part.size());
                System.arraycopy(part.values(), 0, values, at, part.size());
                at += part.size();
            }
            return new Readings(times, values);
        }
    }

    /** Two in order, made one in order; of two at the same instant the first's stands, which was heard first. */
    private static Readings merged(Readings first, Readings second) {
        if (second.size() == 0) return first;
        if (first.size() == 0) return second;
        var times = new long[first.size() + second.size()];
        var values = new double[times.length];
        int size = 0;
        int i = 0;
        int j = 0;
        while (i < first.size() || j < second.size()) {
            boolean takeFirst = j >= second.size() || i < first.size() && first.times()[i] <= second.times()[j];
            if (takeFirst && j < second.size() && first.times()[i] == second.times()[j]) j++;
            var from = takeFirst ? first : second;
            int at = takeFirst ? i++ : j++;
            times[size] = from.times()[at];
            values[size++] = from.values()[at];
        }
        return new Readings(Arrays.copyOf(times, size), Arrays.copyOf(values, size));
    }
}
