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
        Flyway.configure().dataSource(source).load().migrate();
        for (var table : new String[] {"run_guard", "job_window"})
            assertThat(jdbc.sql("select over from " + table + " order by name").query(String.class).list().stream()
                            .map(ScopeJson::read))
                    .containsExactly(
                            Scope.ALL,
                            Scope.ALL.ofKind("job").ofApplication("freight"),
                            Scope.ofChain("Close of day"),
                            Scope.ofJob("count-cars"));
    }
}
