package app.morvet.sources.states;

import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of what states are now, and of when they changed. */
@Repository
class StateStore {
    private final JdbcClient jdbc;

    StateStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static States.Now now(ResultSet row, int number) throws SQLException {
        return new States.Now(
                row.getLong("series_id"),
                row.getInt("place"),
                Stamp.in(row, "since"),
                Stamp.in(row, "heard_at"),
                row.getBoolean("became"));
    }

    private static States.Change change(ResultSet row, int number) throws SQLException {
        return new States.Change(
                row.getLong("series_id"),
                Stamp.in(row, "at"),
                row.getInt("place"),
                row.getBoolean("changed"),
                row.getString("said"));
    }

    /** Of some series, until the end of the transaction nobody else's; in the order of their ids, so that none waits crosswise. */
    Map<Long, States.Now> lock(Collection<Long> series) {
        var known = new HashMap<Long, States.Now>();
        jdbc.sql("select * from state_now where series_id = any(:series::bigint[]) order by series_id for update")
                .param("series", series.toArray(Long[]::new))
                .query(row -> {
                    known.put(row.getLong("series_id"), now(row, 0));
                });
        return known;
    }

    void keep(List<States.Now> some) {
        if (some.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into state_now (series_id, place, since, heard_at, became)
                        select * from unnest(:series::bigint[], :places::int[], :since::timestamptz[], :heard::timestamptz[], :became::boolean[])
                                       as told(id, p, s, h, b)
                         order by id
                            on conflict (series_id) do update
                           set place = excluded.place, since = excluded.since, heard_at = excluded.heard_at,
                               became = excluded.became
                         where excluded.heard_at >= state_now.heard_at""")
                .param("series", some.stream().map(States.Now::series).toArray(Long[]::new))
                .param("became", some.stream().map(States.Now::became).toArray(Boolean[]::new))
                .param("places", some.stream().map(States.Now::place).toArray(Integer[]::new))
                .param(
                        "since",
                        some.stream().map(one -> Timestamp.from(one.since())).toArray(Timestamp[]::new))
                .param(
                        "heard",
                        some.stream().map(one -> Timestamp.from(one.heardAt())).toArray(Timestamp[]::new))
                .update();
    }

    /** Adds changes; to one that is there already, what was said of it is added. */
    void add(List<States.Change> some, @Nullable Long feed) {
        if (some.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into state_change (said_by, series_id, at, place, changed, said)
                        select :feed::bigint, told.* from unnest(:series::bigint[], :ats::timestamptz[], :places::int[], :changed::boolean[], :said::text[]) as told
                            on conflict (series_id, at) do update
                           set changed = state_change.changed or excluded.changed,
                               said = case when excluded.said = '' then state_change.said else excluded.said end,
                               said_by = coalesce(excluded.said_by, state_change.said_by)""")
                .param("feed", feed)
                .param("series", some.stream().map(States.Change::series).toArray(Long[]::new))
                .param("ats", some.stream().map(one -> Timestamp.from(one.at())).toArray(Timestamp[]::new))
                .param("places", some.stream().map(States.Change::place).toArray(Integer[]::new))
                .param("changed", some.stream().map(States.Change::changed).toArray(Boolean[]::new))
                .param("said", some.stream().map(States.Change::said).toArray(String[]::new))
                .update();
    }

    List<States.Now> of(Collection<Long> series) {
        return jdbc.sql("select * from state_now where series_id = any(:series::bigint[])")
                .param("series", series.toArray(Long[]::new))
                .query(StateStore::now)
                .list();
    }

    /** The words that some were in during a span, and for each the one that it was in before: in order of time. */
    List<States.Change> changes(Collection<Long> series, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select c.series_id, c.at, c.place, c.changed, '' as said from state_change c
                         where c.series_id = any(:series::bigint[]) and c.changed and c.at > :from and c.at <= :to
                        union all
                        select b.series_id, b.at, b.place, b.changed, '' from unnest(:series::bigint[]) as s(id)
                         cross join lateral (select * from state_change where series_id = s.id and changed and at <= :from
                                              order by at desc limit 1) as b
                         order by at""")
                .param("series", series.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(StateStore::change)
                .list();
    }

    /** What some said lately, of each its beginning, or when they changed; the newest first. */
    List<States.Change> latest(Collection<Long> series, int longest, int most) {
        return jdbc.sql(
                        """
                        select series_id, at, place, changed, left(said, :longest) as said from state_change
                         where series_id = any(:series::bigint[]) order by at desc limit :most""")
                .param("longest", longest)
                .param("series", series.toArray(Long[]::new))
                .param("most", most)
                .query(StateStore::change)
                .list();
    }

    /** What a state said last before an instant, and when. */
    Optional<States.Change> lastSaid(long series, Instant before) {
        return jdbc.sql(
                        """
                        select * from state_change where series_id = :series and said <> '' and at < :before
                         order by at desc limit 1""")
                .param("series", series)
                .param("before", Stamp.of(before))
                .query(StateStore::change)
                .optional();
    }

    /** What they are now is not known any more; what they were stays. */
    void forget(Collection<Long> series) {
        jdbc.sql("delete from state_now where series_id = any(:series::bigint[])")
                .param("series", series.toArray(Long[]::new))
                .update();
    }

    /** How many characters were kept of what a feed's states said since an instant. */
    long keptSince(@Nullable Long feed, Instant from) {
        return jdbc.sql(
                        """
                        select coalesce(sum(length(said)), 0) from state_change where said_by is not distinct from :feed::bigint and at >= :from and said <> ''""")
                .param("feed", feed)
                .param("from", Stamp.of(from))
                .query(Long.class)
                .single();
    }

    /** Drops what is old, but for the word that each has been in since. */
    int dropBefore(Instant before, int most) {
        return jdbc.sql(
                        """
                        delete from state_change where ctid = any(array(
                          select c.ctid from state_change c where c.at < :before
                             and exists (select 1 from state_change n where n.series_id = c.series_id and n.at > c.at and n.changed)
                           limit :most))""")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }
}
