package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.GuardState;
import app.morvet.core.readings.Micros;
import app.morvet.ground.base.Stamp;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of guards, their versions and their states. */
@Repository
class GuardStore {
    /** What a state belongs to. */
    record Key(long guard, long series) {}

    /** A guard as it was, who made it so, and why. */
    record Version(StoredGuard guard, Instant at, @Nullable Long by, String why) {}

    private final JdbcClient jdbc;
    private final GuardJson json;

    GuardStore(JdbcClient jdbc, GuardJson json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    List<StoredGuard> all() {
        return jdbc.sql("select * from guard where not deleted order by lower(name)")
                .query((row, number) -> guard(row))
                .list();
    }

    List<StoredGuard> activeOfKind(String kind) {
        return jdbc.sql("select * from guard where active and not deleted and rule ->> 'kind' = :kind")
                .param("kind", kind)
                .query((row, number) -> guard(row))
                .list();
    }

    /** What of a guard tells whether there is one like another; its rule is not read for it. */
    record Brief(String name, boolean active, String measure, String kind) {}

    /** Of those that bear one of some names, or watch one of some measures. */
    List<Brief> briefs(Collection<String> names, Collection<String> measures) {
        return jdbc.sql(
                        """
                        select name, active, coalesce(watched ->> 'measure', '') as measure, rule ->> 'kind' as kind
                          from guard
                         where not deleted and (name = any(:names::text[]) or active and watched ->> 'measure' = any(:measures::text[]))""")
                .param("names", names.toArray(String[]::new))
                .param("measures", measures.toArray(String[]::new))
                .query((row, number) -> new Brief(
                        row.getString("name"),
                        row.getBoolean("active"),
                        row.getString("measure"),
                        row.getString("kind")))
                .list();
    }

    /** A page of the guards whose name contains some words. */
    List<StoredGuard> page(String words, int from, int size) {
        return jdbc.sql(
                        """
                        select * from guard
                         where not deleted and name ilike '%' || :words || '%'
                         order by lower(name) offset :from limit :size""")
                .param("words", words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_"))
                .param("from", from)
                .param("size", size)
                .query((row, number) -> guard(row))
                .list();
    }

    /** The ids of those that look ahead. */
    List<Long> trends() {
        return jdbc.sql("select id from guard where rule ->> 'kind' = 'trend' and not deleted")
                .query(Long.class)
                .list();
    }

    /** Deleted ones too: what they raised is still shown. */
    Optional<StoredGuard> byId(long id) {
        return jdbc.sql("select * from guard where id = :id")
                .param("id", id)
                .query((row, number) -> guard(row))
                .optional();
    }

    Optional<StoredGuard> byName(String name) {
        return jdbc.sql("select * from guard where name = :name and not deleted")
                .param("name", name)
                .query((row, number) -> guard(row))
                .optional();
    }

    List<StoredGuard> byIds(Collection<Long> ids) {
        return jdbc.sql("select * from guard where id = any(:ids::bigint[])")
                .param("ids", ids.toArray(Long[]::new))
                .query((row, number) -> guard(row))
                .list();
    }

    private StoredGuard guard(ResultSet row) throws SQLException {
        return guard(row, row.getLong("id"));
    }

    private StoredGuard guard(ResultSet row, long id) throws SQLException {
        return new StoredGuard(
                id,
                row.getString("name"),
                row.getBoolean("active"),
                json.readWatch(row.getString("watched")),
                json.readGuard(row.getString("rule")),
                row.getString("fix_note"),
                row.getObject("owner_id", Long.class),
                row.getInt("version"),
                row.getBoolean("deleted"));
    }

    long add(StoredGuard guard, Instant at, @Nullable Long by) {
        long id = jdbc.sql(
                        """
                        insert into guard (name, active, watched, rule, fix_note, owner_id, version, changed_at, changed_by)
                        values (:name, :active, :watched::jsonb, :rule::jsonb, :note, :owner, 1, :at, :by)
                        returning id""")
                .param("name", guard.name())
                .param("active", guard.active())
                .param("watched", json.write(guard.watch()))
                .param("rule", json.write(guard.rule()))
                .param("note", guard.fixNote())
                .param("owner", guard.owner())
                .param("at", Stamp.of(at))
                .param("by", by)
                .query(Long.class)
                .single();
        keepVersion(id, "");
        return id;
    }

    /** Changes a guard where its version is still the one given; tells whether it was. */
    boolean change(StoredGuard guard, String why, Instant at, long by) {
        int changed = jdbc.sql(
                        """
                        update guard
                           set name = :name, active = :active, watched = :watched::jsonb, rule = :rule::jsonb,
                               fix_note = :note, owner_id = :owner, version = version + 1, changed_at = :at, changed_by = :by
                         where id = :id and version = :version and not deleted""")
                .param("id", guard.id())
                .param("version", guard.version())
                .param("name", guard.name())
                .param("active", guard.active())
                .param("watched", json.write(guard.watch()))
                .param("rule", json.write(guard.rule()))
                .param("note", guard.fixNote())
                .param("owner", guard.owner())
                .param("at", Stamp.of(at))
                .param("by", by)
                .update();
        if (changed == 1) keepVersion(guard.id(), why);
        return changed == 1;
    }

    /** Takes a guard out of all lists; its name becomes free. */
    boolean delete(long id, int version, Instant at, long by) {
        int changed = jdbc.sql(
                        """
                        update guard
                           set deleted = true, active = false, version = version + 1, changed_at = :at, changed_by = :by,
                               name = name || ' (deleted ' || id || ')'
                         where id = :id and version = :version and not deleted""")
                .param("id", id)
                .param("version", version)
                .param("at", Stamp.of(at))
                .param("by", by)
                .update();
        if (changed == 1) keepVersion(id, "");
        return changed == 1;
    }

    private void keepVersion(long id, String why) {
        jdbc.sql(
                        """
                        insert into guard_version (guard_id, version, at, by_id, name, active, watched, rule, fix_note, owner_id, deleted, why)
                        select id, version, changed_at, changed_by, name, active, watched, rule, fix_note, owner_id, deleted, :why
                          from guard where id = :id""")
                .param("id", id)
                .param("why", why)
                .update();
    }

    /** The newest first. */
    List<Version> versions(long id) {
        return jdbc.sql("select * from guard_version where guard_id = :id order by version desc")
                .param("id", id)
                .query((row, number) -> new Version(
                        guard(row, id), Stamp.in(row, "at"), row.getObject("by_id", Long.class), row.getString("why")))
                .list();
    }

    Map<Key, GuardState> states() {
        return states("select * from guard_state");
    }

    Map<Key, GuardState> statesOf(long guard) {
        return states("select * from guard_state where guard_id = " + guard);
    }

    private Map<Key, GuardState> states(String sql) {
        var states = new HashMap<Key, GuardState>();
        jdbc.sql(sql)
                .query((row, number) -> states.put(
                        new Key(row.getLong("guard_id"), row.getLong("series_id")),
                        new GuardState(
                                Stamp.in(row, "evaluated_to"),
                                row.getBoolean("known"),
                                row.getString("level") == null ? null : Severity.valueOf(row.getString("level")),
                                Stamp.orNull(row, "raised_at"),
                                Stamp.orNull(row, "calm_since"),
                                Stamp.orNull(row, "clear_since"),
                                row.getDouble("value"),
                                row.getDouble("worst"),
                                row.getBoolean("flaps"),
                                instants(row.getArray("raises")))))
                .list();
        return states;
    }

    private static List<Instant> instants(Array array) throws SQLException {
        return Arrays.stream((Timestamp[]) array.getArray())
                .map(Timestamp::toInstant)
                .toList();
    }

    /** The worst level that each guard has raised now. */
    record Tally(String level, int up, int subjects) {}

    Map<Long, Tally> tallies() {
        var standing = new HashMap<Long, Tally>();
        jdbc.sql(
                        """
                        select guard_id, count(*) as subjects, count(level) as up,
                               case when bool_or(level = 'CRITICAL') then 'critical' when bool_or(level = 'WARNING') then 'warning'
                                    when bool_or(level = 'NOTICE') then 'notice' else 'steady' end as worst
                          from guard_state group by guard_id""")
                .query((row, number) -> standing.put(
                        row.getLong("guard_id"),
                        new Tally(row.getString("worst"), row.getInt("up"), row.getInt("subjects"))))
                .list();
        return standing;
    }

    /** In one statement, column by column, and numbers as they are in memory: tens of thousands are kept each minute. */
    void keep(List<Key> keys, List<GuardState> states) {
        if (keys.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into guard_state (guard_id, series_id, evaluated_to, known, level, raised_at, calm_since, clear_since,
                                                 value, worst, flaps, raises)
                        select guard, series, e.start + evaluated_to * e.step, known, level, e.start + raised_at * e.step,
                               e.start + calm_since * e.step, e.start + clear_since * e.step, value, worst, flaps,
                               raises::timestamptz[]
                          from unnest(:guards::bigint[], :series::bigint[], :evaluatedTo::bigint[], :known::boolean[], :levels::text[],
                                      :raisedAt::bigint[], :calmSince::bigint[], :clearSince::bigint[], :values::float8[],
                                      :worst::float8[], :flaps::boolean[], :raises::text[])
                            as c(guard, series, evaluated_to, known, level, raised_at, calm_since, clear_since, value, worst, flaps,
                                 raises),
                               (values (timestamptz 'epoch', interval '1 microsecond')) e(start, step)
                            on conflict (guard_id, series_id) do update
                           set evaluated_to = excluded.evaluated_to, known = excluded.known, level = excluded.level,
                               raised_at = excluded.raised_at, calm_since = excluded.calm_since,
                               clear_since = excluded.clear_since, value = excluded.value, worst = excluded.worst,
                               flaps = excluded.flaps, raises = excluded.raises""")
                .param("guards", keys.stream().mapToLong(Key::guard).toArray())
                .param("series", keys.stream().mapToLong(Key::series).toArray())
                .param("evaluatedTo", micros(states, GuardState::evaluatedTo))
                .param("known", states.stream().map(GuardState::known).toArray(Boolean[]::new))
                .param("levels", states.stream().map(one -> name(one.level())).toArray(String[]::new))
                .param("raisedAt", micros(states, GuardState::raisedAt))
                .param("calmSince", micros(states, GuardState::calmSince))
                .param("clearSince", micros(states, GuardState::clearSince))
                .param("values", states.stream().mapToDouble(GuardState::value).toArray())
                .param("worst", states.stream().mapToDouble(GuardState::worst).toArray())
                .param("flaps", states.stream().map(GuardState::flaps).toArray(Boolean[]::new))
                .param("raises", states.stream().map(one -> text(one.raises())).toArray(String[]::new))
                .update();
    }

    private static Long[] micros(Collection<GuardState> states, Function<GuardState, @Nullable Instant> of) {
        return states.stream()
                .map(of)
                .map(at -> at == null ? null : Micros.of(at))
                .toArray(Long[]::new);
    }

    private static @Nullable String name(@Nullable Severity level) {
        return level == null ? null : level.name();
    }

    /** As an array is written, which cannot have others in it that are longer or shorter. */
    private static String text(List<Instant> instants) {
        return instants.stream().map(Instant::toString).collect(Collectors.joining(",", "{", "}"));
    }

    /** What is doubtful about a guard, unless it was changed meanwhile. */
    void keepDoubts(StoredGuard guard, List<String> said) {
        jdbc.sql(
                        """
                        insert into guard_doubt (guard_id, version, said) select id, version, :said::text[] from guard
                         where id = :guard and version = :version
                            on conflict (guard_id) do update set version = excluded.version, said = excluded.said""")
                .param("guard", guard.id())
                .param("version", guard.version())
                .param("said", said.toArray(String[]::new))
                .update();
    }

    /** Guards that were changed since it was found what is doubtful about them. */
    List<StoredGuard> notDoubted(int most) {
        return jdbc.sql(
                        """
                        select g.* from guard g left join guard_doubt d on d.guard_id = g.id and d.version = g.version
                         where not g.deleted and d.guard_id is null order by g.id limit :most""")
                .param("most", most)
                .query((row, number) -> guard(row))
                .list();
    }

    Map<Long, List<String>> doubts(Collection<Long> guards) {
        var doubts = new HashMap<Long, List<String>>();
        jdbc.sql(
                        """
                        select d.guard_id, d.said from guard_doubt d join guard g on g.id = d.guard_id and g.version = d.version
                         where d.guard_id = any(:guards::bigint[])""")
                .param("guards", guards.toArray(Long[]::new))
                .query(row -> {
                    doubts.put(row.getLong("guard_id"), List.of((String[])
                            row.getArray("said").getArray()));
                });
        return doubts;
    }

    void forget(Key key) {
        jdbc.sql("delete from guard_state where guard_id = :guard and series_id = :series")
                .param("guard", key.guard())
                .param("series", key.series())
                .update();
    }
}
