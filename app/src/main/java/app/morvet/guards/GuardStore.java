package app.morvet.guards;

import app.morvet.base.Stamp;
import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.Watched;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of guards and their states. */
@Repository
class GuardStore {
    /** What a state belongs to. */
    record Key(long guard, long component) {}

    private final JdbcClient jdbc;
    private final GuardJson json;

    GuardStore(JdbcClient jdbc, GuardJson json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    List<StandingGuard> all() {
        return jdbc.sql("select * from guard where not deleted order by name")
                .query((row, number) -> guard(row))
                .list();
    }

    /** Deleted ones too: what they raised is still shown. */
    Optional<StandingGuard> byId(long id) {
        return jdbc.sql("select * from guard where id = :id")
                .param("id", id)
                .query((row, number) -> guard(row))
                .optional();
    }

    List<StandingGuard> byIds(Collection<Long> ids) {
        return jdbc.sql("select * from guard where id = any(:ids::bigint[])")
                .param("ids", ids.toArray(Long[]::new))
                .query((row, number) -> guard(row))
                .list();
    }

    private StandingGuard guard(ResultSet row) throws SQLException {
        return new StandingGuard(
                row.getLong("id"),
                row.getString("name"),
                row.getBoolean("active"),
                json.readWatched(row.getString("watched")),
                json.readGuard(row.getString("rule")),
                row.getString("fix_note"),
                row.getInt("version"));
    }

    long add(
            String name,
            boolean active,
            Watched watched,
            Guard rule,
            String fixNote,
            Instant at,
            @org.jspecify.annotations.Nullable Long by) {
        return jdbc.sql(
                        """
                        insert into guard (name, active, watched, rule, fix_note, version, changed_at, changed_by)
                        values (:name, :active, :watched::jsonb, :rule::jsonb, :note, 1, :at, :by)
                        returning id""")
                .param("name", name)
                .param("active", active)
                .param("watched", json.write(watched))
                .param("rule", json.write(rule))
                .param("note", fixNote)
                .param("at", Stamp.of(at))
                .param("by", by)
                .query(Long.class)
                .single();
    }

    /** Changes a guard where its version is still the one given; tells whether it was. */
    boolean change(StandingGuard guard, Instant at, long by) {
        return jdbc.sql(
                                """
                        update guard
                           set name = :name, active = :active, watched = :watched::jsonb, rule = :rule::jsonb,
                               fix_note = :note, version = version + 1, changed_at = :at, changed_by = :by
                         where id = :id and version = :version and not deleted""")
                        .param("id", guard.id())
                        .param("version", guard.version())
                        .param("name", guard.name())
                        .param("active", guard.active())
                        .param("watched", json.write(guard.watched()))
                        .param("rule", json.write(guard.rule()))
                        .param("note", guard.fixNote())
                        .param("at", Stamp.of(at))
                        .param("by", by)
                        .update()
                == 1;
    }

    Map<Key, GuardState> states() {
        var states = new HashMap<Key, GuardState>();
        jdbc.sql("select * from guard_state")
                .query((row, number) -> states.put(
                        new Key(row.getLong("guard_id"), row.getLong("component_id")),
                        new GuardState(
                                Stamp.in(row, "evaluated_to"),
                                row.getString("level") == null ? null : Severity.valueOf(row.getString("level")),
                                Stamp.orNull(row, "raised_at"),
                                Stamp.orNull(row, "calm_since"),
                                Stamp.orNull(row, "clear_since"),
                                row.getDouble("value"),
                                row.getDouble("worst"))))
                .list();
        return states;
    }

    void keep(Key key, GuardState state) {
        var level = state.level();
        jdbc.sql(
                        """
                        insert into guard_state (guard_id, component_id, evaluated_to, level, raised_at, calm_since, clear_since, value, worst)
                        values (:guard, :component, :to, :level, :raised, :calm, :clear, :value, :worst)
                            on conflict (guard_id, component_id) do update
                           set evaluated_to = excluded.evaluated_to, level = excluded.level, raised_at = excluded.raised_at,
                               calm_since = excluded.calm_since, clear_since = excluded.clear_since,
                               value = excluded.value, worst = excluded.worst""")
                .param("guard", key.guard())
                .param("component", key.component())
                .param("to", Stamp.of(state.evaluatedTo()))
                .param("level", level == null ? null : level.name())
                .param("raised", Stamp.of(state.raisedAt()))
                .param("calm", Stamp.of(state.calmSince()))
                .param("clear", Stamp.of(state.clearSince()))
                .param("value", state.value())
                .param("worst", state.worst())
                .update();
    }

    void forget(Key key) {
        jdbc.sql("delete from guard_state where guard_id = :guard and component_id = :component")
                .param("guard", key.guard())
                .param("component", key.component())
                .update();
    }
}
