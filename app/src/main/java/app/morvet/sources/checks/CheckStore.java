package app.morvet.sources.checks;

import app.morvet.core.checks.Cadence;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.Result;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Seal;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of checks. */
@Repository
class CheckStore {
    static final String SEALED_FOR = "check";
    /** Everything but what is secret and what is long. */
    private static final String COLUMNS =
            """
            id, name, component_id, every_seconds, cron, tries, kind, fields, agree, active, version, last_at, last_state, last_took_ms, last_why,
            array(select outpost_id from check_from where check_id = outside_check.id order by outpost_id) as asks_from\s""";

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Seal seal;
    private final MorvetSettings settings;

    CheckStore(JdbcClient jdbc, JsonMapper json, Seal seal, MorvetSettings settings) {
        this.jdbc = jdbc;
        this.json = json;
        this.seal = seal;
        this.settings = settings;
    }

    private StoredCheck check(ResultSet row, int number) throws SQLException {
        var last = Stamp.orNull(row, "last_at");
        var from = (Long[]) row.getArray("asks_from").getArray();
        return new StoredCheck(
                row.getLong("id"),
                row.getString("name"),
                row.getLong("component_id"),
                Cadence.stored(Duration.ofSeconds(row.getInt("every_seconds")), row.getString("cron"), settings.zone()),
                row.getInt("tries"),
                Look.of(row.getString("kind"), fields(json, row.getString("fields"))),
                Arrays.asList(from),
                row.getInt("agree"),
                row.getBoolean("active"),
                row.getInt("version"),
                last == null
                        ? null
                        : new StoredCheck.Last(
                                last,
                                row.getString("last_state"),
                                Duration.ofMillis(row.getInt("last_took_ms")),
                                row.getString("last_why")));
    }

    static Map<String, String> fields(JsonMapper json, String text) {
        var fields = new HashMap<String, String>();
        json.readTree(text)
                .properties()
                .forEach(one -> fields.put(one.getKey(), one.getValue().asString()));
        return fields;
    }

    private StoredCheck.Due due(ResultSet row, int number) throws SQLException {
        return new StoredCheck.Due(check(row, number), secrets(row), row.getString("memory"));
    }

    private StoredCheck.Secrets secrets(ResultSet row) throws SQLException {
        return new StoredCheck.Secrets(
                seal.open(row.getString("headers"), SEALED_FOR), seal.open(row.getString("log_in"), SEALED_FOR));
    }

    /**
     * Some of those in whose name or sentence words stand, by name.
     *
     * @param words empty for all
     */
    List<StoredCheck> page(String words, int from, int most) {
        return jdbc.sql(
                        "select " + COLUMNS
                                + """
                         from outside_check where :words = '' or strpos(lower(name || ' ' || fields::text), lower(:words)) > 0
                         order by lower(name) offset :from limit :most""")
                .param("words", words)
                .param("from", from)
                .param("most", most)
                .query(this::check)
                .list();
    }

    long count(String words) {
        return jdbc.sql(
                        "select count(*) from outside_check where :words = '' or strpos(lower(name || ' ' || fields::text), lower(:words)) > 0")
                .param("words", words)
                .query(Long.class)
                .single();
    }

    Optional<StoredCheck> byId(long id) {
        return jdbc.sql("select " + COLUMNS + "from outside_check where id = :id")
                .param("id", id)
                .query(this::check)
                .optional();
    }

    /** Those that an outpost asks. */
    List<StoredCheck.Due> of(long outpost) {
        return jdbc.sql(
                        "select " + COLUMNS
                                + ", headers, log_in, memory from outside_check where active and id in (select check_id from check_from where outpost_id = :outpost) order by id")
                .param("outpost", outpost)
                .query(this::due)
                .list();
    }

    /** Which those are, and how they were changed last, in one text. */
    String stamp(long outpost) {
        return jdbc.sql(
                        """
                        select coalesce(string_agg(id || '.' || version, ' ' order by id), '') from outside_check
                         where active and id in (select check_id from check_from where outpost_id = :outpost)""")
                .param("outpost", outpost)
                .query(String.class)
                .single();
    }

    StoredCheck.Secrets secrets(long id) {
        return jdbc.sql("select headers, log_in from outside_check where id = :id")
                .param("id", id)
                .query((row, number) -> secrets(row))
                .optional()
                .orElse(StoredCheck.Secrets.NONE);
    }

    Optional<StoredCheck.Passed> passed(long id) {
        return jdbc.sql("select passed_at, passed_said from outside_check where id = :id and passed_at is not null")
                .param("id", id)
                .query((row, number) ->
                        new StoredCheck.Passed(Stamp.in(row, "passed_at"), row.getString("passed_said")))
                .optional();
    }

    /** @return its id */
    long add(StoredCheck one, StoredCheck.Secrets secrets, Instant now) {
        long id = given(
                        """
                        insert into outside_check (name, component_id, every_seconds, cron, tries, kind, fields, headers, log_in, agree, active, version, next_at)
                        values (:name, :component, :every, :cron, :tries, :kind, :fields::jsonb, :headers, :logIn, :agree, :active, 1, :now) returning id""",
                        one,
                        secrets,
                        now)
                .query(Long.class)
                .single();
        from(id, one.from());
        return id;
    }

    /** Tells whether it was still as it was when it was read. What it remembers it forgets, since it is another now. */
    boolean change(StoredCheck one, StoredCheck.Secrets secrets, Instant now) {
        boolean changed = given(
                                """
                                update outside_check
                                   set name = :name, component_id = :component, every_seconds = :every, cron = :cron, tries = :tries, kind = :kind,
                                       fields = :fields::jsonb, headers = :headers, log_in = :logIn, agree = :agree, active = :active,
                                       version = version + 1, next_at = :now, memory = ''
                                 where id = :id and version = :version""",
                                one,
                                secrets,
                                now)
                        .param("id", one.id())
                        .param("version", one.version())
                        .update()
                == 1;
        if (changed) from(one.id(), one.from());
        return changed;
    }

    private JdbcClient.StatementSpec given(String sql, StoredCheck one, StoredCheck.Secrets secrets, Instant now) {
        return jdbc.sql(sql)
                .param("name", one.name())
                .param("component", one.component())
                .param("every", (int) one.every().every().toSeconds())
                .param("cron", one.every().cron())
                .param("tries", one.tries())
                .param("kind", one.look().kind().key())
                .param("fields", json.writeValueAsString(one.look().fields()))
                .param("headers", seal.close(secrets.headers(), SEALED_FOR))
                .param("logIn", seal.close(secrets.logIn(), SEALED_FOR))
                .param("agree", one.agree())
                .param("active", one.active())
                .param(
                        "now",
                        Stamp.of(
                                one.every().cron().isEmpty() ? now : one.every().next(now, now)));
    }

    private void from(long id, List<Long> outposts) {
        jdbc.sql("delete from check_from where check_id = :id and not (outpost_id = any(:outposts))")
                .param("id", id)
                .param("outposts", outposts.toArray(Long[]::new))
                .update();
        jdbc.sql("insert into check_from (check_id, outpost_id) select :id, unnest(:outposts) on conflict do nothing")
                .param("id", id)
                .param("outposts", outposts.toArray(Long[]::new))
                .update();
    }

    /** Whether another one has a name. */
    boolean taken(String name, long but) {
        return jdbc.sql("select exists (select 1 from outside_check where name = :name and id <> :but)")
                .param("name", name)
                .param("but", but)
                .query(Boolean.class)
                .single();
    }

    void moved(String before, String now) {
        jdbc.sql(
                        """
                        update outside_check
                           set fields = jsonb_set(fields, '{url}', to_jsonb(:now || substr(fields ->> 'url', length(:before) + 1)))
                         where starts_with(fields ->> 'url', :before)""")
                .param("now", now)
                .param("before", before)
                .update();
    }

    void delete(long id) {
        jdbc.sql("delete from outside_check where id = :id").param("id", id).update();
    }

    /** Switches all of some component on or off; tells which were otherwise before. */
    List<Long> switchAll(long component, boolean active, Instant now) {
        return jdbc.sql(
                        """
                        update outside_check set active = :active, version = version + 1, next_at = :now
                         where component_id = :component and active <> :active returning id""")
                .param("active", active)
                .param("component", component)
                .param("now", Stamp.of(now))
                .query(Long.class)
                .list();
    }

    /**
     * Takes what is due of what Morvet asks itself, and puts down when it is again: what one node takes no other does. One that
     * has fallen behind begins anew from now.
     */
    List<StoredCheck.Due> takeDue(Instant now, int most) {
        return jdbc.sql(
                        """
                        update outside_check
                           set next_at = greatest(next_at + every_seconds * interval '1 second', cast(:now as timestamptz) + every_seconds * interval '1 second' * 0.5)
                         where id in (select id from outside_check as one where active and next_at <= :now
                                        and not exists (select 1 from check_from where check_id = one.id)
                                       order by next_at limit :most for update skip locked)
                        returning\s"""
                                + COLUMNS
                                + ", headers, log_in, memory")
                .param("now", Stamp.of(now))
                .param("most", most)
                .query(this::due)
                .list();
    }

    /** Of what the checks are that an outpost makes. */
    Set<Long> componentsOf(long outpost) {
        return Set.copyOf(jdbc.sql(
                        """
                        select distinct c.component_id from outside_check c join check_from f on f.check_id = c.id
                         where f.outpost_id = :outpost and c.active""")
                .param("outpost", outpost)
                .query(Long.class)
                .list());
    }

    /** Those of some components are due at once. */
    void dueNow(Collection<Long> components, Instant now) {
        jdbc.sql(
                        """
                        update outside_check set next_at = least(next_at, cast(:now as timestamptz))
                         where active and component_id = any(:components::bigint[])""")
                .param("now", Stamp.of(now))
                .param("components", components.toArray(Long[]::new))
                .update();
    }

    /** When one is due the next time. */
    void due(long id, Instant at) {
        jdbc.sql("update outside_check set next_at = :at where id = :id")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void keepResult(long id, Instant at, Result result, String said) {
        jdbc.sql(
                        """
                        update outside_check
                           set last_at = :at, last_state = :state, last_took_ms = :took, last_why = :why,
                               passed_at = case when :passed then :at else passed_at end,
                               passed_said = case when :passed then :said else passed_said end,
                               memory = :memory
                         where id = :id and (last_at is null or last_at <= :at)""")
                .param("id", id)
                .param("at", Stamp.of(at))
                .param("state", result.state())
                .param("took", (int) Math.min(Integer.MAX_VALUE, result.took().toMillis()))
                .param("why", result.why())
                .param("passed", result.passed())
                .param("said", said)
                .param("memory", result.memory())
                .update();
    }

    /** What came of it last from one outpost. */
    void keepFrom(long id, long outpost, Instant at, Result result) {
        jdbc.sql(
                        """
                        update check_from set last_at = :at, last_state = :state, last_why = :why
                         where check_id = :id and outpost_id = :outpost and (last_at is null or last_at <= :at)""")
                .param("id", id)
                .param("outpost", outpost)
                .param("at", Stamp.of(at))
                .param("state", result.state())
                .param("why", result.why())
                .update();
    }

    /** @param state null while nothing was heard */
    record Heard(
            long outpost,
            @org.jspecify.annotations.Nullable Instant at,
            @org.jspecify.annotations.Nullable String state,
            String why) {}

    /** What each outpost heard last of a check. */
    List<Heard> heard(long id) {
        return jdbc.sql("select * from check_from where check_id = :id order by outpost_id")
                .param("id", id)
                .query((row, number) -> new Heard(
                        row.getLong("outpost_id"),
                        Stamp.orNull(row, "last_at"),
                        row.getString("last_state"),
                        row.getString("last_why")))
                .list();
    }
}
