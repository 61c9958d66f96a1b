package app.morvet.views.interfaces;

import app.morvet.core.messages.Delays;
import app.morvet.core.messages.InterfaceState;
import app.morvet.core.messages.UsualTraffic;
import app.morvet.ground.base.Stamp;
import app.morvet.sources.messages.OpenDays;
import java.nio.ByteBuffer;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of what interfaces carry, by the hour. */
@Repository
class InterfaceStore {
    /** What an interface carried in an hour. */
    record Hour(long component, Instant hour, long delivered, long failed, Delays delays) {}

    /** What an interface carried in a span; {@code last} is when it last carried something, or null. */
    record Day(long delivered, long failed, @Nullable Instant last) {
        static final Day NOTHING = new Day(0, 0, null);

        long carried() {
            return delivered + failed;
        }

        Day plus(Day other) {
            var later = last == null || other.last != null && other.last.isAfter(last) ? other.last : last;
            return new Day(delivered + other.delivered, failed + other.failed, later);
        }
    }

    /** @param oldest when the oldest open one failed */
    record Open(long messages, Instant oldest) {}

    /** Dimensions, whether there are nulls, the type, the length, the lower bound; then of each its length and itself. */
    private static final int ARRAY_HEADER = 20;

    private final JdbcClient jdbc;
    private final OpenDays openDays;

    InterfaceStore(JdbcClient jdbc, OpenDays openDays) {
        this.openDays = openDays;
        this.jdbc = jdbc;
    }

    /**
     * From the array as the server sends it: by the driver each of tens of thousands of counts would become an object. Counts that are
     * not kept are 0.
     */
    private static int[] addDelays(int[] counts, byte[] array) {
        var sent = ByteBuffer.wrap(array);
        sent.position(Math.min(ARRAY_HEADER, sent.limit()));
        for (int i = 0; i < counts.length && sent.remaining() >= 8; i++) {
            sent.getInt();
            counts[i] += sent.getInt();
        }
        return counts;
    }

    /** What each interface carried in the hours of a half-open span. */
    Map<Long, Day> between(Instant from, Instant to) {
        var days = new HashMap<Long, Day>();
        jdbc.sql(
                        """
                        select component_id, sum(delivered)::bigint as delivered, sum(failed)::bigint as failed, max(last_carried) as last
                          from interface_hour where hour >= :from and hour < :to group by component_id""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(row -> {
                    days.put(row.getLong("component_id"), day(row));
                });
        return days;
    }

    private static Day day(ResultSet row) throws SQLException {
        return new Day(row.getLong("delivered"), row.getLong("failed"), Stamp.orNull(row, "last"));
    }

    /** @param days and {@code delays} by interface */
    record Since(Map<Long, Day> days, Map<Long, Delays> delays) {}

    /** What each interface carried since an hour, and the delays since another. */
    Since since(Instant from, Instant delaysFrom) {
        var days = new HashMap<Long, Day>();
        var counts = new HashMap<Long, int[]>();
        jdbc.sql(
                        """
                        select component_id, delivered, failed, last_carried as last, hour >= :from as counts,
                               case when hour >= :delays then array_send(delays) end as sent_delays
                          from interface_hour where hour >= :first""")
                .param("from", Stamp.of(from))
                .param("delays", Stamp.of(delaysFrom))
                .param("first", Stamp.of(from.isBefore(delaysFrom) ? from : delaysFrom))
                .query(row -> {
                    long component = row.getLong("component_id");
                    if (row.getBoolean("counts")) days.merge(component, day(row), Day::plus);
                    var sent = row.getBytes("sent_delays");
                    if (sent != null) addDelays(counts.computeIfAbsent(component, none -> new int[Delays.STEPS]), sent);
                });
        var delays = new HashMap<Long, Delays>();
        counts.forEach((component, some) -> delays.put(component, new Delays(some)));
        return new Since(days, delays);
    }

    /** When some interfaces last carried something, one look into the key of hours for each. */
    Map<Long, Instant> lastCarried(List<Long> components) {
        var lasts = new HashMap<Long, Instant>();
        jdbc.sql(
                        """
                        select id, (select last_carried from interface_hour
                                     where component_id = id and last_carried is not null
                                     order by hour desc limit 1) as last
                          from unnest(:components::bigint[]) as c(id)""")
                .param("components", components.toArray(Long[]::new))
                .query(row -> {
                    var last = Stamp.orNull(row, "last");
                    if (last != null) lasts.put(row.getLong("id"), last);
                });
        return lasts;
    }

    /** What is open, by interface. */
    Map<Long, Open> open() {
        var open = new HashMap<Long, Open>();
        jdbc.sql(
                        "select component_id, count(*) as messages, min(at) as oldest from failed_message where open and at >= :since group by component_id")
                .param("since", Stamp.of(openDays.since()))
                .query(row -> {
                    open.put(row.getLong("component_id"), new Open(row.getLong("messages"), Stamp.in(row, "oldest")));
                });
        return open;
    }

    List<Hour> hours(long component, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select *, array_send(delays) as sent_delays from interface_hour
                         where component_id = :component and hour >= :from and hour < :to order by hour""")
                .param("component", component)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> new Hour(
                        row.getLong("component_id"),
                        Stamp.in(row, "hour"),
                        row.getLong("delivered"),
                        row.getLong("failed"),
                        new Delays(addDelays(new int[Delays.STEPS], row.getBytes("sent_delays")))))
                .list();
    }

    /** How many hours before an instant each interface is told of. */
    Map<Long, Long> hoursTold(Instant before) {
        var hours = new HashMap<Long, Long>();
        jdbc.sql(
                        "select component_id, count(*) as hours from interface_hour where hour < :before group by component_id")
                .param("before", Stamp.of(before))
                .query(row -> {
                    hours.put(row.getLong("component_id"), row.getLong("hours"));
                });
        return hours;
    }

    /** When an interface was first heard of, by what it carried. */
    @Nullable
    Instant firstHour(long component) {
        return jdbc.sql("select min(hour) as hour from interface_hour where component_id = :component")
                .param("component", component)
                .query((row, number) -> java.util.Optional.ofNullable(Stamp.orNull(row, "hour")))
                .single()
                .orElse(null);
    }

    Map<Long, UsualTraffic> usual(ZoneId zone) {
        var usual = new HashMap<Long, UsualTraffic>();
        jdbc.sql("select component_id, by_hour, p95 from interface_usual").query(row -> {
            var boxed = (Double[]) row.getArray("by_hour").getArray();
            var byHour = new double[UsualTraffic.SLOTS];
            for (int i = 0; i < byHour.length; i++) byHour[i] = boxed[i];
            usual.put(row.getLong("component_id"), new UsualTraffic(zone, byHour, row.getDouble("p95")));
        });
        return usual;
    }

    void keepUsual(long component, UsualTraffic usual, Instant at) {
        var boxed = java.util.Arrays.stream(usual.byHour()).boxed().toArray(Double[]::new);
        jdbc.sql(
                        """
                        insert into interface_usual (component_id, by_hour, p95, made_at)
                        values (:component, :hours::float8[], :p95, :at)
                            on conflict (component_id) do update
                           set by_hour = excluded.by_hour, p95 = excluded.p95, made_at = excluded.made_at""")
                .param("component", component)
                .param("hours", boxed)
                .param("p95", usual.p95())
                .param("at", Stamp.of(at))
                .update();
    }

    private static InterfaceState state(ResultSet row) throws SQLException {
        return new InterfaceState(
                Stamp.in(row, "at"),
                InterfaceState.State.of(row.getString("state")),
                row.getString("reason"),
                row.getString("version"),
                row.getString("node"));
    }

    /** How each interface stands now, of those of which it is told. */
    Map<Long, InterfaceState> states() {
        var states = new HashMap<Long, InterfaceState>();
        jdbc.sql("select distinct on (component_id) * from interface_state order by component_id, at desc, id desc")
                .query(row -> {
                    states.put(row.getLong("component_id"), state(row));
                });
        return states;
    }

    /** How an interface stood, the newest first. */
    List<InterfaceState> states(long component, int most) {
        return jdbc.sql(
                        "select * from interface_state where component_id = :component order by at desc, id desc limit :most")
                .param("component", component)
                .param("most", most)
                .query((row, number) -> state(row))
                .list();
    }
}
