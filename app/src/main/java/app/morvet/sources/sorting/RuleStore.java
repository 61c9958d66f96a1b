package app.morvet.sources.sorting;

import app.morvet.core.alert.Severity;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of sorting rules. */
@Repository
class RuleStore {
    private final JdbcClient jdbc;
    private final JsonMapper json;

    RuleStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private StoredRule rule(ResultSet row, int number) throws SQLException {
        return new StoredRule(
                row.getLong("id"),
                row.getString("name"),
                RuleJson.stored(json.readValue(row.getString("criteria"), new TypeReference<Map<String, Object>>() {})),
                Severity.valueOf(row.getString("severity")),
                row.getObject("owner_id", Long.class),
                row.getString("fix_note"),
                row.getBoolean("alerts"),
                FoldBy.valueOf(row.getString("fold_by")),
                new FoldWindow(Duration.ofMinutes(row.getInt("fold_minutes"))),
                row.getBoolean("send_again"),
                Set.of((String[]) row.getArray("explained_by").getArray()),
                Stamp.orNull(row, "last_took"),
                row.getLong("stopped"),
                Stamp.orNull(row, "stopped_at"));
    }

    /** Those that stand, in order. */
    List<StoredRule> all() {
        return jdbc.sql("select * from sorting_rule where not deleted order by place, id")
                .query(this::rule)
                .list();
    }

    /** Also one that was deleted. */
    Optional<StoredRule> byId(long id) {
        return jdbc.sql("select * from sorting_rule where id = :id")
                .param("id", id)
                .query(this::rule)
                .optional();
    }

    int version() {
        return jdbc.sql("select version from sorting_list").query(Integer.class).single();
    }

    /** Whether the list still had the version that was seen; it has the next one now. */
    boolean nextVersion(int seen, Instant at, @Nullable Long by) {
        return jdbc.sql(
                                "update sorting_list set version = version + 1, changed_at = :at, changed_by = :by where version = :seen")
                        .param("seen", seen)
                        .param("at", Stamp.of(at))
                        .param("by", by)
                        .update()
                == 1;
    }

    long add(StoredRule rule, int place) {
        return jdbc.sql(
                        """
                        insert into sorting_rule (place, name, criteria, severity, owner_id, fix_note, alerts, fold_by,
                                                  fold_minutes, send_again, explained_by)
                        values (:place, :name, :criteria::jsonb, :severity, :owner, :note, :alerts, :fold, :minutes,
                                :again, :explained::text[]) returning id""")
                .params(values(rule))
                .param("place", place)
                .query(Long.class)
                .single();
    }

    void change(StoredRule rule) {
        jdbc.sql(
                        """
                        update sorting_rule
                           set name = :name, criteria = :criteria::jsonb, severity = :severity, owner_id = :owner,
                               fix_note = :note, alerts = :alerts, fold_by = :fold, fold_minutes = :minutes,
                               send_again = :again, explained_by = :explained::text[], stopped = 0, stopped_at = null
                         where id = :id""")
                .params(values(rule))
                .param("id", rule.id())
                .update();
    }

    private Map<String, Object> values(StoredRule rule) {
        var values = new java.util.HashMap<String, Object>();
        values.put("name", rule.name());
        values.put("criteria", json.writeValueAsString(RuleJson.plain(rule.criteria())));
        values.put("severity", rule.severity().name());
        values.put("owner", rule.owner());
        values.put("note", rule.fixNote());
        values.put("alerts", rule.alerts());
        values.put("fold", rule.foldBy().name());
        values.put("minutes", (int) rule.foldFor().length().toMinutes());
        values.put("again", rule.sendAgain());
        values.put("explained", rule.explainedBy().toArray(String[]::new));
        return values;
    }

    void place(long id, int place) {
        jdbc.sql("update sorting_rule set place = :place where id = :id")
                .param("id", id)
                .param("place", place)
                .update();
    }

    void delete(long id) {
        jdbc.sql("update sorting_rule set deleted = true where id = :id")
                .param("id", id)
                .update();
    }

    Map<Long, Instant> madeAt() {
        var made = new HashMap<Long, Instant>();
        jdbc.sql("select id, made_at from sorting_rule where not deleted").query(row -> {
            made.put(row.getLong("id"), Stamp.in(row, "made_at"));
        });
        return made;
    }

    void took(long id, Instant at) {
        jdbc.sql("update sorting_rule set last_took = greatest(last_took, :at) where id = :id")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void stopped(long id, long times, Instant at) {
        jdbc.sql("update sorting_rule set stopped = stopped + :times, stopped_at = :at where id = :id")
                .param("id", id)
                .param("times", times)
                .param("at", Stamp.of(at))
                .update();
    }
}
