package app.morvet.ground.connections;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.base.Seal;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of connections and of how calls to them went. What is secret is stored sealed. */
@Repository
class ConnectionStore implements AgedData {
    private static final Duration KEPT = Duration.ofDays(30);
    private static final int SHOWN = 10;
    private static final int LONGEST_WORDS = 500;

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Seal seal;

    ConnectionStore(JdbcClient jdbc, JsonMapper json, Seal seal) {
        this.jdbc = jdbc;
        this.json = json;
        this.seal = seal;
    }

    List<Connection> all() {
        return jdbc.sql("select * from outside_connection order by sort, name, id")
                .query(this::connection)
                .list();
    }

    List<Connection> ofSort(String sort) {
        return jdbc.sql("select * from outside_connection where sort = :sort order by name, id")
                .param("sort", sort)
                .query(this::connection)
                .list();
    }

    Optional<Connection> byId(long id) {
        return jdbc.sql("select * from outside_connection where id = :id")
                .param("id", id)
                .query(this::connection)
                .optional();
    }

    private Connection connection(ResultSet row, int number) throws SQLException {
        var sort = row.getString("sort");
        return new Connection(
                row.getLong("id"),
                sort,
                row.getString("key"),
                row.getObject("feed_id", Long.class),
                row.getString("name"),
                row.getString("url"),
                seal.open(row.getString("headers"), sort),
                seal.open(row.getString("secret"), sort),
                json.readValue(row.getString("settings"), new TypeReference<TreeMap<String, String>>() {}),
                row.getInt("version"));
    }

    /** Adds a connection, or changes the one with the same key while its version is still the same; tells whether. */
    boolean keep(Connection one) {
        return jdbc.sql(
                                """
                                insert into outside_connection as c (sort, key, feed_id, name, url, headers, secret, settings)
                                values (:sort, :key, :feed::bigint, :name, :url, :headers, :secret, :settings::jsonb)
                                    on conflict (sort, key) do update
                                   set name = excluded.name, url = excluded.url, headers = excluded.headers,
                                       secret = excluded.secret, settings = excluded.settings, version = c.version + 1
                                 where c.version = :version""")
                        .param("sort", one.sort())
                        .param("key", one.key())
                        .param("feed", one.feed())
                        .param("name", one.name())
                        .param("url", one.url())
                        .param("headers", seal.close(one.headers(), one.sort()))
                        .param("secret", seal.close(one.secret(), one.sort()))
                        .param("settings", json.writeValueAsString(one.settings()))
                        .param("version", one.version())
                        .update()
                == 1;
    }

    /** Seals with the key of today what is not. */
    void sealAnew() {
        for (var one : all())
            jdbc.sql("update outside_connection set headers = :headers, secret = :secret where id = :id")
                    .param("id", one.id())
                    .param("headers", seal.close(one.headers(), one.sort()))
                    .param("secret", seal.close(one.secret(), one.sort()))
                    .update();
    }

    /** Whether something stands there that is not sealed with the key of today. */
    boolean sealedOtherwise() {
        return jdbc.sql("select headers, secret from outside_connection")
                .query((row, number) ->
                        seal.isOfToday(row.getString("headers")) && seal.isOfToday(row.getString("secret")))
                .list()
                .contains(false);
    }

    void called(long connection, Calls.Call call) {
        jdbc.sql(
                        """
                        insert into outside_call (connection_id, at, what, answered, words, millis)
                        select id, :at, :what, :answered, :words, :millis from outside_connection where id = :id""")
                .param("id", connection)
                .param("at", Stamp.of(call.at()))
                .param("what", call.what())
                .param("answered", call.answered())
                .param("words", PlainText.cut(PlainText.of(call.words()), LONGEST_WORDS))
                .param("millis", call.took().toMillis())
                .update();
    }

    List<Calls.Call> calls(long connection) {
        return jdbc.sql("select * from outside_call where connection_id = :id order by at desc limit :shown")
                .param("id", connection)
                .param("shown", SHOWN)
                .query((row, number) -> new Calls.Call(
                        Stamp.in(row, "at"),
                        row.getString("what"),
                        row.getBoolean("answered"),
                        row.getString("words"),
                        Duration.ofMillis(row.getLong("millis"))))
                .list();
    }

    @Override
    public void dropOld(Instant now) {
        jdbc.sql("delete from outside_call where at < :before")
                .param("before", Stamp.of(now.minus(KEPT)))
                .update();
    }
}
