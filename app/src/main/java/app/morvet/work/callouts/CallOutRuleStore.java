package app.morvet.work.callouts;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of rules. */
@Repository
class CallOutRuleStore {
    private final JdbcClient jdbc;

    CallOutRuleStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static CallOutRules.Kept rule(ResultSet row, int number) throws SQLException {
        var one = new CallOutRules.Stored(
                row.getLong("id"),
                CallOutRuleJson.read(row.getString("name"), row.getString("body")),
                row.getBoolean("catches"),
                row.getInt("version"));
        return new CallOutRules.Kept(one, row.getBoolean("deleted"));
    }

    /** In their order, also those that were deleted. */
    List<CallOutRules.Kept> all() {
        return jdbc.sql("select * from call_out_rule order by place, id")
                .query(CallOutRuleStore::rule)
                .list();
    }

    /** Adds one with id 0 before the one that catches all, or changes one whose version is still the one given; 0 where it is not. */
    long keep(CallOutRules.Stored one) {
        var sql = one.id() == 0
                ? """
                  insert into call_out_rule (place, name, body)
                  values ((select coalesce(max(place), 0) + 1 from call_out_rule where not catches), :name, :body::jsonb) returning id"""
                : """
                  update call_out_rule set name = :name, body = :body::jsonb, version = version + 1
                   where id = :id and version = :version and not deleted returning id""";
        return jdbc.sql(sql)
                .param("id", one.id())
                .param("version", one.version())
                .param("name", one.rule().name())
                .param("body", CallOutRuleJson.write(one.rule()))
                .query(Long.class)
                .optional()
                .orElse(0L);
    }

    boolean delete(long id, int version) {
        return jdbc.sql(
                                "update call_out_rule set deleted = true, version = version + 1 where id = :id and version = :version and not catches and not deleted")
                        .param("id", id)
                        .param("version", version)
                        .update()
                == 1;
    }

    void place(long id, int place) {
        jdbc.sql("update call_out_rule set place = :place where id = :id and not catches")
                .param("id", id)
                .param("place", place)
                .update();
    }
}
