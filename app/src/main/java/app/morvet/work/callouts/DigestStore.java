package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.Happening;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of what is gathered for digests. */
@Repository
class DigestStore {
    private final JdbcClient jdbc;

    DigestStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void add(long rule, CallOutDigests.Item one) {
        jdbc.sql(
                        """
                        insert into call_out_digest (rule_id, case_id, happened, severity, at)
                        values (:rule, :case, :happened, :severity, :at)""")
                .param("rule", rule)
                .param("case", one.caseId())
                .param("happened", one.happened().name())
                .param("severity", one.severity().name())
                .param("at", Stamp.of(one.at()))
                .update();
    }

    /** What was gathered until an instant, in order of time; it is told by whoever takes it, and by nobody else. */
    List<CallOutDigests.Item> take(long rule, Instant until) {
        return jdbc
                .sql("delete from call_out_digest where rule_id = :rule and at <= :until returning *")
                .param("rule", rule)
                .param("until", Stamp.of(until))
                .query((row, number) -> new CallOutDigests.Item(
                        row.getLong("case_id"),
                        Happening.valueOf(row.getString("happened")),
                        Severity.valueOf(row.getString("severity")),
                        Stamp.in(row, "at")))
                .list()
                .stream()
                .sorted(Comparator.comparing(CallOutDigests.Item::at))
                .toList();
    }
}
