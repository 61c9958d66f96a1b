package app.morvet.rules.runguards;

import app.morvet.core.alert.Severity;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.ground.estate.ScopeJson;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of guards over runs and of their alerts that are up. */
@Repository
class RunGuardStore {
    private final JdbcClient jdbc;

    RunGuardStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static RunGuards.Stored guard(ResultSet row, int number) throws SQLException {
        return new RunGuards.Stored(
                row.getLong("id"),
                row.getString("name"),
                new RunGuard(
                        RunTrouble.valueOf(row.getString("trouble")),
                        ScopeJson.read(row.getString("over")),
                        Severity.valueOf(row.getString("severity")),
                        row.getInt("below"),
                        row.getInt("critical_below")),
                row.getObject("owner_id", Long.class),
                row.getString("fix_note"),
                row.getBoolean("active"),
                row.getInt("version"),
                row.getBoolean("deleted"));
    }

    List<RunGuards.Stored> all() {
        return jdbc.sql("select * from run_guard where not deleted order by name, id")
                .query(RunGuardStore::guard)
                .list();
    }

    Optional<RunGuards.Stored> byId(long id) {
        return jdbc.sql("select * from run_guard where id = :id")
                .param("id", id)
                .query(RunGuardStore::guard)
                .optional();
    }

    /** Adds one with id 0, or changes one whose version is still the one given; 0 where it is not. */
    long keep(RunGuards.Stored guard) {
        var sql = guard.id() == 0
                ? """
                  insert into run_guard (name, trouble, over, severity, below, critical_below, owner_id, fix_note, active)
                  values (:name, :trouble, :over::jsonb, :severity, :below, :criticalBelow, :owner, :note, :active) returning id"""
                : """
                  update run_guard
                     set name = :name, trouble = :trouble, over = :over::jsonb, severity = :severity,
                         below = :below, critical_below = :criticalBelow, owner_id = :owner, fix_note = :note, active = :active,
                         version = version + 1
                   where id = :id and version = :version and not deleted returning id""";
        return jdbc.sql(sql)
                .param("id", guard.id())
                .param("version", guard.version())
                .param("name", guard.name())
                .param("trouble", guard.rule().trouble().name())
                .param("over", ScopeJson.write(guard.rule().scope()))
                .param("severity", guard.rule().severity().name())
                .param("below", guard.rule().below())
                .param("criticalBelow", guard.rule().criticalBelow())
                .param("owner", guard.owner())
                .param("note", guard.fixNote())
                .param("active", guard.active())
                .query(Long.class)
                .optional()
                .orElse(0L);
    }

    boolean delete(long id, int version) {
        return jdbc.sql(
                                "update run_guard set deleted = true, active = false, version = version + 1 where id = :id and version = :version and not deleted")
                        .param("id", id)
                        .param("version", version)
                        .update()
                == 1;
    }
}
