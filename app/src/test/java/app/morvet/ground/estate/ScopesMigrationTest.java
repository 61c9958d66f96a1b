package app.morvet.ground.estate;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.FreshDatabase;
import app.morvet.core.estate.Scope;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;

/** A database of the version before keeps over which jobs its guards over runs and windows stand. */
class ScopesMigrationTest {
    @Test
    void whatStoodOverJobsStandsOverTheSameJobs() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("19").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into run_guard (name, trouble, scope, scope_name, severity, below, critical_below, fix_note, active)
                        select kind, 'FAILED', kind, name, 'WARNING', 60, 0, '', true
                          from (values ('ALL', ''), ('APPLICATION', 'freight'), ('CHAIN', 'Close of day'), ('JOB', 'count-cars')) as it(kind, name);
                        insert into job_window (name, scope, scope_name, once_at, cron, zone, minutes, reason)
                        select name, scope, scope_name, now(), '', 'UTC', 60, '' from run_guard""")
                .update();
        Flyway.configure().dataSource(source).target("26").load().migrate();
        for (var table : new String[] {"run_guard", "job_window"})
            assertThat(jdbc.sql("select over from " + table + " order by name").query(String.class).list().stream()
                            .map(ScopeJson::read))
                    .containsExactly(
                            Scope.ALL,
                            Scope.ALL.ofKind("job").ofApplication("freight"),
                            Scope.ofChain("Close of day"),
                            Scope.ofJob("count-cars"));
    }

    @Test
    void windowsOverJobsAreWindowsFromThenOn() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("26").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into job_window (name, over, once_at, cron, zone, minutes, reason, version)
                        values ('once', '{"kind": "job", "name": "count-cars"}', '2027-03-18T05:00Z', '', 'UTC', 60, 'tanks', 3),
                               ('weekly', '{"kind": "job"}', null, '0 0 * * sun', 'Europe/Helsinki', 360, '', 1)""")
                .update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql(
                                """
                        select concat_ws('|', id, name, effect, jobs, over ->> 'name', first_at at time zone 'UTC', again, zone, minutes, reason, version)
                          from maintenance_window order by id""")
                        .query(String.class)
                        .list())
                .containsExactly(
                        "1|once|NONE|NOT_EXPECTED|count-cars|2027-03-18 05:00:00||UTC|60|tanks|3",
                        "2|weekly|NONE|NOT_EXPECTED|cron 0 0 * * sun|Europe/Helsinki|360||1");
        // The next one gets an id of its own.
        assertThat(jdbc.sql(
                                """
                        insert into maintenance_window (name, over, effect, jobs, first_at, again, calendar, zone, minutes, skipped, altered, reason, quiet)
                        values ('next', '{}', 'HOLD', 'AS_EVER', now(), '', '', 'UTC', 5, '[]', '{}', '', false) returning id""")
                        .query(Long.class)
                        .single())
                .isEqualTo(3);
    }
}
