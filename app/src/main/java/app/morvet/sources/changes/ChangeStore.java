package app.morvet.sources.changes;

import app.morvet.core.changes.Change;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of observed changes and of what components say of themselves. */
@Repository
class ChangeStore {
    private static final TypeReference<Map<String, String>> LABELS = new TypeReference<>() {};

    private final JdbcClient jdbc;
    private final JsonMapper json;

    ChangeStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private static Changes.Observed observed(ResultSet row, int number) throws SQLException {
        return new Changes.Observed(
                row.getLong("id"),
                row.getLong("component_id"),
                new Change(
                        Stamp.in(row, "at"),
                        row.getString("what"),
                        row.getString("name"),
                        row.getString("before"),
                        row.getString("after"),
                        row.getString("by_whom"),
                        row.getString("note")));
    }

    /** Adds one, unless it was told before. */
    void add(long feed, String event, long component, Change change) {
        jdbc.sql(
                        """
                        insert into observed_change (at, component_id, feed_id, event_id, what, name, before, after, by_whom, note)
                        values (:at, :component, :feed, :event, :what, :name, :before, :after, :by, :note) on conflict do nothing""")
                .param("at", Stamp.of(change.at()))
                .param("component", component)
                .param("feed", feed)
                .param("event", event)
                .param("what", change.what())
                .param("name", change.name())
                .param("before", change.before())
                .param("after", change.after())
                .param("by", change.by())
                .param("note", change.note())
                .update();
    }

    /** Those of some components in a span, the newest first. */
    List<Changes.Observed> of(Collection<Long> components, Instant from, Instant to, int most) {
        return jdbc.sql(
                        """
                        select * from observed_change
                         where component_id = any(:components::bigint[]) and at >= :from and at <= :to
                         order by at desc, id desc limit :most""")
                .param("components", components.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("most", most)
                .query(ChangeStore::observed)
                .list();
    }

    /**
     * Those in which some words stand, or that are of some components, the newest first.
     *
     * @param before older than the one of this id; 0 for the first page
     */
    List<Changes.Observed> latest(
            String words, Collection<Long> named, Instant from, Instant to, long before, int most) {
        return jdbc.sql(
                        """
                        select * from observed_change c
                         where at >= :from and at <= :to
                           and (:words = '' or component_id = any(:named::bigint[])
                                or what || ' ' || name || ' ' || before || ' ' || after || ' ' || by_whom || ' ' || note
                                   ilike '%' || :words || '%')
                           and (:before = 0 or (at, id) < (select b.at, b.id from observed_change b where b.id = :before))
                         order by at desc, id desc limit :most""")
                .param("named", named.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("words", words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_"))
                .param("before", before)
                .param("most", most)
                .query(ChangeStore::observed)
                .list();
    }

    /** What a component says of itself, by the name of the info. */
    Map<String, Map<String, String>> infos(long component) {
        var infos = new HashMap<String, Map<String, String>>();
        jdbc.sql("select name, labels from component_info where component_id = :component")
                .param("component", component)
                .query(row -> {
                    infos.put(row.getString("name"), json.readValue(row.getString("labels"), LABELS));
                });
        return infos;
    }

    void say(long component, String name, Map<String, String> labels, Instant at) {
        jdbc.sql(
                        """
                        insert into component_info (component_id, name, labels, since) values (:component, :name, :labels::jsonb, :at)
                            on conflict (component_id, name) do update set labels = excluded.labels, since = excluded.since""")
                .param("component", component)
                .param("name", name)
                .param("labels", json.writeValueAsString(labels))
                .param("at", Stamp.of(at))
                .update();
    }

    int dropBefore(Instant before, int most) {
        return jdbc.sql(
                        "delete from observed_change where id = any(array(select id from observed_change where at < :before limit :most))")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }
}
