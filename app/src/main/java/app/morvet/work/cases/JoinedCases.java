package app.morvet.work.cases;

import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of cases that are parts of others, and of those that may be. */
@Repository
class JoinedCases {
    private final JdbcClient jdbc;

    JoinedCases(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Open cases that opened since an instant. */
    List<WorkCase> openSince(Instant since) {
        return jdbc.sql("select * from work_case where state <> 'SETTLED' and opened_at >= :since order by id")
                .param("since", Stamp.of(since))
                .query(CaseRows::workCase)
                .list();
    }

    void join(long id, long into) {
        jdbc.sql("update work_case set joined_to = :into where id = :id")
                .param("id", id)
                .param("into", into)
                .update();
    }

    /** The case of which one is a part. */
    Optional<Long> whole(long id) {
        return jdbc.sql("select joined_to from work_case where id = :id and joined_to is not null")
                .param("id", id)
                .query(Long.class)
                .optional();
    }

    /** The alerts of some cases, by case. */
    Map<Long, List<Long>> alertsOf(Collection<Long> cases) {
        var alerts = new HashMap<Long, List<Long>>();
        jdbc.sql("select case_id, alert_id from case_alert where case_id = any(:cases::bigint[])")
                .param("cases", cases.toArray(Long[]::new))
                .query(row -> {
                    alerts.computeIfAbsent(row.getLong("case_id"), none -> new ArrayList<>())
                            .add(row.getLong("alert_id"));
                });
        return alerts;
    }
}
