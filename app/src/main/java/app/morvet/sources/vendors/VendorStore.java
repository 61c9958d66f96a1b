package app.morvet.sources.vendors;

import app.morvet.core.vendors.Bulletin;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of vendors. */
@Repository
class VendorStore {
    private final JdbcClient jdbc;
    private final JsonMapper json;

    VendorStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private static VendorInstance instance(ResultSet row, int number) throws SQLException {
        return new VendorInstance(
                row.getLong("component_id"),
                row.getString("vendor"),
                row.getDouble("agreed"),
                row.getString("mail"),
                row.getBoolean("by_itself"),
                Stamp.minutesOrNull(row, "told_minutes"),
                row.getInt("version"));
    }

    List<VendorInstance> instances() {
        return jdbc.sql("select * from vendor_instance order by lower(vendor), component_id")
                .query(VendorStore::instance)
                .list();
    }

    boolean keep(VendorInstance one) {
        return jdbc.sql(
                                """
                        insert into vendor_instance (component_id, vendor, agreed, mail, by_itself, told_minutes)
                        select :component, :vendor, :agreed, :mail, :byItself, :told
                         where :version = 0 or exists (select 1 from vendor_instance where component_id = :component)
                            on conflict (component_id) do update
                           set vendor = excluded.vendor, agreed = excluded.agreed, mail = excluded.mail, by_itself = excluded.by_itself,
                               told_minutes = excluded.told_minutes,
                               version = vendor_instance.version + 1
                         where vendor_instance.version = :version""")
                        .param("component", one.component())
                        .param("vendor", one.vendor())
                        .param("agreed", one.agreed())
                        .param("mail", one.mail())
                        .param("byItself", one.byItself())
                        .param("told", Stamp.minutes(one.told()))
                        .param("version", one.version())
                        .update()
                > 0;
    }

    void polled(long connection, Instant at, Duration took, List<String> faults) {
        jdbc.sql(
                        """
                        insert into vendor_poll (connection_id, at, millis, faults) values (:connection, :at, :millis, :faults)
                            on conflict do nothing""")
                .param("connection", connection)
                .param("at", Stamp.of(at))
                .param("millis", (int) Math.min(took.toMillis(), Integer.MAX_VALUE))
                .param("faults", String.join("\n", faults))
                .update();
    }

    /** The latest looks at a feed, the newest first. */
    List<Vendors.Poll> polls(long connection, int most) {
        return jdbc.sql("select * from vendor_poll where connection_id = :connection order by at desc limit :most")
                .param("connection", connection)
                .param("most", most)
                .query((row, number) -> new Vendors.Poll(
                        Stamp.in(row, "at"),
                        Duration.ofMillis(row.getInt("millis")),
                        row.getString("faults").lines().toList()))
                .list();
    }

    private StoredBulletin kept(ResultSet row, int number) throws SQLException {
        var parts = new LinkedHashSet<String>();
        json.readTree(row.getString("parts")).forEach(one -> parts.add(one.asString()));
        return new StoredBulletin(
                row.getLong("id"),
                row.getLong("component_id"),
                row.getLong("connection_id"),
                new Bulletin(
                        row.getString("key"),
                        row.getBoolean("planned"),
                        row.getString("title"),
                        row.getString("text"),
                        Stamp.orNull(row, "from_at"),
                        Stamp.orNull(row, "to_at"),
                        null,
                        row.getBoolean("is_over"),
                        parts),
                Stamp.in(row, "first_seen"),
                Stamp.in(row, "last_seen"),
                Stamp.orNull(row, "gone_at"),
                row.getInt("version"));
    }

    /** Those of a feed that were not gone, by their keys; until the end of the transaction nobody else's. */
    Map<String, StoredBulletin> lock(long connection, Collection<String> keys) {
        var known = new HashMap<String, StoredBulletin>();
        jdbc.sql(
                        """
                        select * from vendor_bulletin where connection_id = :connection and (gone_at is null or key = any(:keys::text[]))
                         order by id for update""")
                .param("connection", connection)
                .param("keys", keys.toArray(String[]::new))
                .query(this::kept)
                .list()
                .forEach(one -> known.put(one.said().id(), one));
        return known;
    }

    long add(long component, long connection, Bulletin said, Instant at) {
        long id = jdbc.sql(
                        """
                        insert into vendor_bulletin (component_id, connection_id, key, planned, title, text, from_at, to_at, is_over, parts,
                                                     first_seen, last_seen)
                        values (:component, :connection, :key, :planned, :title, :text, :from, :to, :over, :parts::jsonb, :at, :at) returning id""")
                .param("component", component)
                .param("connection", connection)
                .param("key", said.id())
                .param("planned", said.planned())
                .param("title", said.title())
                .param("text", said.text())
                .param("from", Stamp.of(said.from()))
                .param("to", Stamp.of(said.to()))
                .param("over", said.over())
                .param("parts", json.writeValueAsString(said.parts()))
                .param("at", Stamp.of(at))
                .query(Long.class)
                .single();
        addVersion(id, at);
        return id;
    }

    void change(long id, Bulletin said, Instant at) {
        jdbc.sql(
                        """
                        update vendor_bulletin
                           set planned = :planned, title = :title, text = :text, from_at = :from, to_at = :to, is_over = :over,
                               parts = :parts::jsonb, last_seen = :at, gone_at = null, version = version + 1
                         where id = :id""")
                .param("id", id)
                .param("planned", said.planned())
                .param("title", said.title())
                .param("text", said.text())
                .param("from", Stamp.of(said.from()))
                .param("to", Stamp.of(said.to()))
                .param("over", said.over())
                .param("parts", json.writeValueAsString(said.parts()))
                .param("at", Stamp.of(at))
                .update();
        addVersion(id, at);
    }

    private void addVersion(long id, Instant at) {
        jdbc.sql(
                        """
                        insert into vendor_bulletin_version (bulletin_id, version, at, planned, title, text, from_at, to_at, is_over)
                        select id, version, :at, planned, title, text, from_at, to_at, is_over from vendor_bulletin where id = :id""")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void seen(Collection<Long> ids, Instant at) {
        jdbc.sql("update vendor_bulletin set last_seen = :at, gone_at = null where id = any(:ids::bigint[])")
                .param("ids", ids.toArray(Long[]::new))
                .param("at", Stamp.of(at))
                .update();
    }

    void gone(Collection<Long> ids, Instant at) {
        jdbc.sql("update vendor_bulletin set gone_at = :at where id = any(:ids::bigint[]) and gone_at is null")
                .param("ids", ids.toArray(Long[]::new))
                .param("at", Stamp.of(at))
                .update();
    }

    Optional<StoredBulletin> bulletin(long id) {
        return jdbc.sql("select * from vendor_bulletin where id = :id")
                .param("id", id)
                .query(this::kept)
                .optional();
    }

    /** Of an instance, the latest first. */
    List<StoredBulletin> of(long component, int most) {
        return jdbc.sql(
                        """
                        select * from vendor_bulletin where component_id = :component
                         order by coalesce(from_at, first_seen) desc, id desc limit :most""")
                .param("component", component)
                .param("most", most)
                .query(this::kept)
                .list();
    }

    /** Those that are said to be neither over nor past, of all instances. */
    List<StoredBulletin> open(Instant now, int most) {
        return jdbc.sql(
                        """
                        select * from vendor_bulletin
                         where not is_over and gone_at is null and (to_at is null or to_at > :now) order by from_at, id limit :most""")
                .param("now", Stamp.of(now))
                .param("most", most)
                .query(this::kept)
                .list();
    }

    /** As it was in each version, the latest first. */
    Map<Long, Instant> overSince(Collection<Long> bulletins) {
        var found = new HashMap<Long, Instant>();
        jdbc.sql(
                        """
                        select bulletin_id, min(at) as at from vendor_bulletin_version
                         where is_over and bulletin_id = any(:ids::bigint[]) group by bulletin_id""")
                .param("ids", bulletins.toArray(Long[]::new))
                .query(row -> {
                    found.put(row.getLong("bulletin_id"), Stamp.in(row, "at"));
                });
        return found;
    }

    List<Vendors.Version> versions(long bulletin) {
        return jdbc.sql("select * from vendor_bulletin_version where bulletin_id = :bulletin order by version desc")
                .param("bulletin", bulletin)
                .query((row, number) -> new Vendors.Version(
                        row.getInt("version"),
                        Stamp.in(row, "at"),
                        row.getString("title"),
                        row.getString("text"),
                        Stamp.orNull(row, "from_at"),
                        Stamp.orNull(row, "to_at"),
                        row.getBoolean("is_over")))
                .list();
    }

    int dropPollsBefore(Instant before, int most) {
        return jdbc.sql(
                        """
                        delete from vendor_poll where ctid = any(array(select ctid from vendor_poll where at < :before limit :most))""")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }
}
