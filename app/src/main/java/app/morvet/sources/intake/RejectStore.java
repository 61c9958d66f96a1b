package app.morvet.sources.intake;

import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Live;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** All SQL of what was refused. */
@Repository
public class RejectStore {
    public record Reject(
            long id, Instant receivedAt, String feed, int place, String eventId, String reason, String body) {}

    private final JdbcClient jdbc;
    private final Live live;

    RejectStore(JdbcClient jdbc, Live live) {
        this.jdbc = jdbc;
        this.live = live;
    }

    @Transactional
    void keep(long feed, Instant at, Refusals refusals) {
        if (refusals.none()) return;
        var all = refusals.all();
        jdbc.sql(
                        """
                        insert into rejected_event (received_at, feed_id, place, event_id, reason, body)
                        select :at, :feed, r.place, left(r.event_id, 200), r.reason, r.body
                          from unnest(:places::int[], :ids::text[], :reasons::text[], :bodies::text[])
                            as r(place, event_id, reason, body)""")
                .param("at", Stamp.of(at))
                .param("feed", feed)
                .param("places", all.stream().map(one -> one.rejected().index()).toArray(Integer[]::new))
                .param("ids", all.stream().map(one -> one.rejected().id()).toArray(String[]::new))
                .param(
                        "reasons",
                        all.stream().map(one -> one.rejected().reason()).toArray(String[]::new))
                .param("bodies", all.stream().map(Refusals.Refused::body).toArray(String[]::new))
                .update();
        live.changed("now");
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
