package app.morvet.sources.intake;

import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of what was refused. */
@Repository
public class RejectStore {
    public record Reject(
            long id, Instant receivedAt, String feed, int place, String eventId, String reason, String body) {}

    private final JdbcClient jdbc;

    RejectStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void keep(long feed, Instant at, List<Intake.Rejected> rejected, List<String> bodies) {
        if (rejected.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into rejected_event (received_at, feed_id, place, event_id, reason, body)
                        select :at, :feed, r.place, left(r.event_id, 200), r.reason, r.body
                          from unnest(:places::int[], :ids::text[], :reasons::text[], :bodies::text[])
                            as r(place, event_id, reason, body)""")
                .param("at", Stamp.of(at))
                .param("feed", feed)
                .param("places", rejected.stream().map(Intake.Rejected::index).toArray(Integer[]::new))
                .param(
                        "ids",
                        rejected.stream()
                                .map(bad -> bad.id().replace('\0', '\uFFFD'))
                                .toArray(String[]::new))
                .param(
                        "reasons",
                        rejected.stream()
                                .map(bad -> bad.reason().replace('\0', '\uFFFD'))
                                .toArray(String[]::new))
                .param("bodies", bodies.toArray(String[]::new))
                .update();
    }

    /** A page of rejects, the newest first, older than an id. */
    public List<Reject> page(long before, int size) {
        return jdbc.sql(
                        """
                        select r.id, r.received_at, f.name as feed, r.place, r.event_id, r.reason, r.body
                          from rejected_event r
                          join feed f on f.id = r.feed_id
                         where r.id < :before
                         order by r.id desc
                         limit :size""")
                .param("before", before)
                .param("size", size)
                .query((row, number) -> new Reject(
                        row.getLong("id"),
                        Stamp.in(row, "received_at"),
                        row.getString("feed"),
                        row.getInt("place"),
                        row.getString("event_id"),
                        row.getString("reason"),
                        row.getString("body")))
                .list();
    }

    /** Drops some that are older, and tells how many. */
    int drop(Instant before, int most) {
        return jdbc.sql(
                        """
                        delete from rejected_event where id = any(array(
                            select id from rejected_event where received_at < :before order by received_at limit :most))""")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }

    public long countSince(Instant since) {
        return jdbc.sql("select count(*) from rejected_event where received_at >= :since")
                .param("since", Stamp.of(since))
                .query(Long.class)
                .single();
    }
}
