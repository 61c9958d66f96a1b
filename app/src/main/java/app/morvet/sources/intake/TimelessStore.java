package app.morvet.sources.intake;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.Stamp;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/**
 * When events first came that bear no time. An event counts once by its id and its time, so one that is sent again must
 * have the time that it had.
 */
@Repository
class TimelessStore implements AgedData {
    private static final Duration KEPT = Duration.ofDays(7);

    private final JdbcClient jdbc;

    TimelessStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** When each of these events of a feed came first; now, for those that are new. */
    Map<String, Instant> firstArrivals(long feed, List<String> ids, Instant now) {
        if (ids.isEmpty()) return Map.of();
        var arrivals = new HashMap<String, Instant>();
        jdbc.sql(
                        """
                        insert into timeless_event (feed_id, event_id, at)
                        select :feed, id, :now from unnest(:ids::text[]) as t(id) order by id
                        on conflict (feed_id, event_id) do update set at = timeless_event.at
                        returning event_id, at""")
                .param("feed", feed)
                .param("now", Stamp.of(now))
                .param("ids", ids.stream().distinct().toArray(String[]::new))
                .query(row -> {
                    arrivals.put(row.getString("event_id"), Stamp.in(row, "at"));
                });
        return arrivals;
    }

    @Override
    public void dropOld(Instant now) {
        jdbc.sql("delete from timeless_event where at < :before")
                .param("before", Stamp.of(now.minus(KEPT)))
                .update();
    }
}
