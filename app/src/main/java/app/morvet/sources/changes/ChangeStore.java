package app.morvet.sources.changes;

import app.morvet.core.changes.Change;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
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

    /** @param event what tells it from others of its feed; empty where it may stand twice */
    record Told(String event, long component, Change change) {}

    /** Adds what was not told before. */
    void add(@Nullable Long feed, List<Told> some) {
        if (some.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into observed_change (feed_id, at, component_id, event_id, what, name, before, after, by_whom, note)
                        select :feed, told.* from unnest(:ats::timestamptz[], :components::bigint[], :events::text[], :whats::text[],
                               :names::text[], :befores::text[], :afters::text[], :bys::text[], :notes::text[]) as told
                            on conflict do nothing""")
                .param("feed", feed)
                .param(
                        "ats",
                        some.stream().map(one -> Stamp.of(one.change().at())).toArray(Timestamp[]::new))
                .param("components", some.stream().map(Told::component).toArray(Long[]::new))
                .param("events", texts(some, Told::event))
                .param("whats", texts(some, one -> one.change().what()))
                .param("names", texts(some, one -> one.change().name()))
                .param("befores", texts(some, one -> one.change().before()))
                .param("afters", texts(some, one -> one.change().after()))
                .param("bys", texts(some, one -> one.change().by()))
                .param("notes", texts(some, one -> one.change().note()))
                .update();
    }

    private static <T> String[] texts(List<T> some, Function<T, String> part) {
        return some.stream().map(part).toArray(String[]::new);
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
        return infos(List.of(component)).getOrDefault(component, Map.of());
    }

    /** Of some components, each by its id. */
    Map<Long, Map<String, Map<String, String>>> infos(Collection<Long> components) {
        var infos = new HashMap<Long, Map<String, Map<String, String>>>();
        jdbc.sql(
                        "select component_id, name, labels from component_info where component_id = any(:components::bigint[])")
                .param("components", components.toArray(Long[]::new))
                .query(row -> {
                    infos.computeIfAbsent(row.getLong("component_id"), none -> new HashMap<>())
                            .put(row.getString("name"), json.readValue(row.getString("labels"), LABELS));
                });
        return infos;
    }

    record Said(long component, String name, Map<String, String> labels, Instant at) {}

    /** Keeps what components say of themselves; no info of a component may be there twice. */
    void say(Collection<Said> some) {
        if (some.isEmpty()) return;
        var all = List.copyOf(some);
        jdbc.sql(
                        """
                        insert into component_info (component_id, name, labels, since)
                        select component, name, labels::jsonb, at
                          from unnest(:components::bigint[], :names::text[], :labels::text[], :ats::timestamptz[])
                               as said(component, name, labels, at)
                            on conflict (component_id, name) do update set labels = excluded.labels, since = excluded.since""")
                .param("components", all.stream().map(Said::component).toArray(Long[]::new))
                .param("names", texts(all, Said::name))
                .param("labels", texts(all, one -> json.writeValueAsString(one.labels())))
                .param("ats", all.stream().map(one -> Stamp.of(one.at())).toArray(Timestamp[]::new))
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
