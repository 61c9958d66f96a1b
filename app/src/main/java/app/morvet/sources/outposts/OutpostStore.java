package app.morvet.sources.outposts;

import app.morvet.core.outposts.Ask;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of outposts. */
@Repository
class OutpostStore {
    private final JdbcClient jdbc;
    private final JsonMapper json;

    OutpostStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private Outpost outpost(ResultSet row, int number) throws SQLException {
        var heard = Stamp.orNull(row, "heard_at");
        return new Outpost(
                row.getLong("id"),
                row.getString("name"),
                row.getLong("component_id"),
                row.getLong("feed_id"),
                Stamp.in(row, "made_at"),
                Stamp.orNull(row, "revoked_at"),
                row.getString("wanted"),
                Stamp.orNull(row, "wanted_at"),
                row.getBoolean("look_again"),
                heard == null ? null : said(row, heard),
                row.getString("spool"),
                row.getLong("taken_to"));
    }

    private Outpost.Said said(ResultSet row, Instant heard) throws SQLException {
        var may = json.readTree(row.getString("may"));
        return new Outpost.Said(
                heard,
                row.getString("program"),
                row.getString("host"),
                row.getString("system"),
                row.getString("brief"),
                Stamp.orNull(row, "brief_at"),
                Duration.ofMillis(row.getLong("skew_ms")),
                row.getLong("waiting"),
                row.getLong("dropped"),
                texts(json.readTree(row.getString("offers"))),
                texts(may.path("lines")),
                actions(may.path("actions")),
                texts(json.readTree(row.getString("faults"))));
    }

    static List<String> texts(JsonNode list) {
        var texts = new ArrayList<String>();
        list.forEach(one -> texts.add(one.asString("")));
        return texts;
    }

    private static List<Outpost.Action> actions(JsonNode list) {
        var actions = new ArrayList<Outpost.Action>();
        for (var one : list) {
            var arguments = new ArrayList<Outpost.Argument>();
            one.path("arguments")
                    .properties()
                    .forEach(it -> arguments.add(new Outpost.Argument(it.getKey(), texts(it.getValue()))));
            actions.add(new Outpost.Action(
                    one.path("name").asString(""),
                    one.path("of").asString(""),
                    one.path("right").asString(""),
                    arguments));
        }
        return actions;
    }

    List<Outpost> all() {
        return jdbc.sql("select * from outpost order by revoked_at is not null, lower(name)")
                .query(this::outpost)
                .list();
    }

    /** Those whose key holds and that offer an action on a component. */
    List<Outpost> offering(long component, String key) {
        return jdbc.sql(
                        """
                        select * from outpost
                         where revoked_at is null
                           and (component_id = :component and may -> 'actions' @> '[{"of": ""}]'
                                or may -> 'actions' @> jsonb_build_array(jsonb_build_object('of', :key)))
                         order by lower(name)""")
                .param("component", component)
                .param("key", key)
                .query(this::outpost)
                .list();
    }

    Optional<Outpost> byId(long id) {
        return jdbc.sql("select * from outpost where id = :id")
                .param("id", id)
                .query(this::outpost)
                .optional();
    }

    Optional<Outpost> byKey(byte[] hash) {
        return jdbc.sql("select * from outpost where key_hash = :hash and revoked_at is null")
                .param("hash", hash)
                .query(this::outpost)
                .optional();
    }

    boolean taken(String name) {
        return jdbc.sql("select exists (select 1 from outpost where name = :name)")
                .param("name", name)
                .query(Boolean.class)
                .single();
    }

    long add(String name, long component, long feed, byte[] hash, Instant now) {
        return jdbc.sql(
                        """
                        insert into outpost (name, component_id, feed_id, key_hash, made_at)
                        values (:name, :component, :feed, :hash, :now) returning id""")
                .param("name", name)
                .param("component", component)
                .param("feed", feed)
                .param("hash", hash)
                .param("now", Stamp.of(now))
                .query(Long.class)
                .single();
    }

    boolean revoke(long id, Instant now) {
        return jdbc.sql("update outpost set revoked_at = :now where id = :id and revoked_at is null")
                        .param("id", id)
                        .param("now", Stamp.of(now))
                        .update()
                == 1;
    }

    void rekey(long id, byte[] hash) {
        jdbc.sql("update outpost set key_hash = :hash, revoked_at = null where id = :id")
                .param("id", id)
                .param("hash", hash)
                .update();
    }

    void wanted(long id, String version, Instant now) {
        jdbc.sql("update outpost set wanted = :version, wanted_at = :now where id = :id and wanted <> :version")
                .param("id", id)
                .param("version", version)
                .param("now", Stamp.of(now))
                .update();
    }

    void lookAgain(long id, boolean again) {
        jdbc.sql("update outpost set look_again = :again where id = :id and look_again <> :again")
                .param("id", id)
                .param("again", again)
                .update();
    }

    /** What it says of itself. A brief is in force since it is first told so. */
    void heard(long id, Outpost.Said said, JsonNode offers, JsonNode may, JsonNode faults) {
        jdbc.sql(
                        """
                        update outpost
                           set heard_at = :at, program = :program, host = :host, system = :system,
                               brief_at = case when brief = :brief then brief_at else :at end, brief = :brief,
                               skew_ms = :skew, waiting = :waiting, dropped = :dropped, offers = :offers::jsonb, may = :may::jsonb,
                               faults = :faults::jsonb
                         where id = :id""")
                .param("id", id)
                .param("at", Stamp.of(said.at()))
                .param("program", said.program())
                .param("host", said.host())
                .param("system", said.system())
                .param("brief", said.brief())
                .param("skew", said.skew().toMillis())
                .param("waiting", said.waiting())
                .param("dropped", said.dropped())
                .param("offers", offers.toString())
                .param("may", may.toString())
                .param("faults", faults.toString())
                .update();
    }

    void takenTo(long id, String spool, long number) {
        jdbc.sql("update outpost set spool = :spool, taken_to = :number where id = :id")
                .param("id", id)
                .param("spool", spool)
                .param("number", number)
                .update();
    }

    boolean watched(long id, Instant now) {
        return jdbc.sql("select coalesce(watched_until > :now, false) from outpost where id = :id")
                .param("id", id)
                .param("now", Stamp.of(now))
                .query(Boolean.class)
                .single();
    }

    /** Somebody looks at its processes until then. */
    void watch(long id, Instant until) {
        jdbc.sql("update outpost set watched_until = :until where id = :id")
                .param("id", id)
                .param("until", Stamp.of(until))
                .update();
    }

    void keepProcesses(long id, String told) {
        jdbc.sql("update outpost set processes = :told::jsonb where id = :id")
                .param("id", id)
                .param("told", told)
                .update();
    }

    Optional<String> processes(long id) {
        return jdbc.sql("select processes::text from outpost where id = :id and processes is not null")
                .param("id", id)
                .query(String.class)
                .optional();
    }

    /** An ask with the number under which it is kept. */
    record Kept(long id, @Nullable Long group, @Nullable Long outpost, Ask ask) {}

    /** All that is asked, of whomever; groups are called by whom it is asked. */
    List<Kept> asks() {
        return jdbc.sql("select * from outpost_ask order by what, id")
                .query((row, number) -> {
                    var group = row.getObject("group_id", Long.class);
                    var outpost = row.getObject("outpost_id", Long.class);
                    var whence = outpost != null ? Ask.Whence.ONE : group != null ? Ask.Whence.GROUP : Ask.Whence.ALL;
                    return new Kept(
                            row.getLong("id"),
                            group,
                            outpost,
                            new Ask(
                                    whence,
                                    "",
                                    row.getString("what"),
                                    row.getString("of"),
                                    Duration.ofSeconds(row.getInt("every_seconds")),
                                    row.getBoolean("active")));
                })
                .list();
    }

    void ask(@Nullable Long group, @Nullable Long outpost, Ask ask) {
        jdbc.sql(
                        """
                        insert into outpost_ask (group_id, outpost_id, what, of, every_seconds, active)
                        values (:group, :outpost, :what, :of, :every, :active)
                        on conflict (coalesce(group_id, 0), coalesce(outpost_id, 0), what)
                        do update set of = excluded.of, every_seconds = excluded.every_seconds, active = excluded.active""")
                .param("group", group)
                .param("outpost", outpost)
                .param("what", ask.what())
                .param("of", ask.of())
                .param("every", (int) ask.every().toSeconds())
                .param("active", ask.active())
                .update();
    }

    void unask(long id) {
        jdbc.sql("delete from outpost_ask where id = :id").param("id", id).update();
    }
}
