package app.morvet.demo;

import app.morvet.ground.base.Stamp;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.sources.checks.Checks;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.springframework.context.annotation.Profile;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What making the demo's past asks of the store. */
@Repository
@Profile("demo")
class DemoStore {
    private static final String MADE = "demo past made";

    private final JdbcClient jdbc;
    private final Connections connections;
    private final Checks checks;

    DemoStore(JdbcClient jdbc, Connections connections, Checks checks) {
        this.jdbc = jdbc;
        this.checks = checks;
        this.connections = connections;
    }

    boolean pastIsMade() {
        return jdbc.sql("select exists (select 1 from audit_entry where what = :what)")
                .param("what", MADE)
                .query(Boolean.class)
                .single();
    }

    /** From here on it is there. */
    void pastIsMade(Instant now) {
        jdbc.sql("insert into audit_entry (at, what, subject) values (:now, :what, 'demo')")
                .param("now", Stamp.of(now))
                .param("what", MADE)
                .update();
    }

    /** The stand-ins may answer elsewhere than at the last start: whoever calls them then calls there. */
    @Transactional
    public void standInsAnswerAt(String address) {
        var before = connections.byKey("desk", "desk").map(Connection::url).orElse(address);
        if (before.equals(address)) return;
        connections.moved(before, address);
        jdbc.sql(
                        """
                        update feed set fetch_url = :now || substr(fetch_url, length(:before) + 1)
                         where starts_with(fetch_url, :before)""")
                .param("now", address)
                .param("before", before)
                .update();
        checks.moved(before, address);
    }

    Instant reportedTo() {
        return single("select coalesce(max(to_at), 'epoch') from carried_count");
    }

    /** When the last run began that the scheduler told of. */
    Instant lastRun() {
        return single("select coalesce(max(at), 'epoch') from job_run");
    }

    Instant firstFailure() {
        return single("select coalesce(min(at), now()) from failed_message");
    }

    /** Up to when every fetched feed is told; the epoch where one has told nothing since an instant. */
    Instant readTo(Instant since) {
        return Objects.requireNonNull(jdbc.sql(
                        """
                        select coalesce(min(coalesce(newest, 'epoch')), 'epoch')
                          from (select (select max(r.at) from reading r join series s on s.id = r.series_id
                                         where s.feed_id = f.id and r.at > :since) as newest
                                  from feed f where f.fetch_url is not null) as told""")
                .param("since", Stamp.of(since))
                .query((row, number) -> row.getTimestamp(1).toInstant())
                .single());
    }

    private Instant single(String sql) {
        return Objects.requireNonNull(jdbc.sql(sql)
                .query((row, number) -> row.getTimestamp(1).toInstant())
                .single());
    }

    List<Long> casesAfter(long id) {
        return jdbc.sql("select id from work_case where id > :id order by id")
                .param("id", id)
                .query(Long.class)
                .list();
    }

    List<Long> untakenCases(Instant openedBefore) {
        return jdbc.sql("select id from work_case where state = 'NEW' and opened_at < :before order by id")
                .param("before", Stamp.of(openedBefore))
                .query(Long.class)
                .list();
    }
}
