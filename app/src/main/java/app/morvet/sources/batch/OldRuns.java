package app.morvet.sources.batch;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Runs are kept for so long, and what they wrote for a shorter time. Dropped some at a time, so that no lock lasts. */
@Component
class OldRuns implements AgedData {
    private static final int A_TIME = 5000;

    private final JdbcClient jdbc;
    private final MorvetSettings settings;

    OldRuns(JdbcClient jdbc, MorvetSettings settings) {
        this.jdbc = jdbc;
        this.settings = settings;
    }

    @Override
    public void dropOld(Instant now) {
        var runs = now.minus(settings.keepRuns());
        while (dropOutputs(now.minus(settings.keepOutputs()), A_TIME) == A_TIME) continue;
        while (dropStarts(runs, A_TIME) == A_TIME) continue;
        while (dropRuns(runs, A_TIME) == A_TIME) continue;
        dropFiles(runs);
    }

    /** Drops at most so many outputs of runs that began before an instant; tells how many. */
    private int dropOutputs(Instant before, int most) {
        return jdbc.sql(
                        """
                        delete from run_output where run_id = any(array(
                            select o.run_id from job_run r join run_output o on o.run_id = r.id where r.at < :before limit :most))""")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }

    /** Drops at most so many expected starts from before an instant; tells how many. */
    private int dropStarts(Instant before, int most) {
        return jdbc.sql(
                        """
                        delete from expected_start where (component_id, cycle) in (
                            select component_id, cycle from expected_start where cycle < :before limit :most)""")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }

    /** Drops at most so many runs that began before an instant and are of no start that is kept; tells how many. */
    private int dropRuns(Instant before, int most) {
        return jdbc.sql(
                        """
                        delete from job_run where id = any(array(
                            select r.id from job_run r
                             where r.at < :before and not exists (select 1 from expected_start s where s.run_id = r.id)
                             limit :most))""")
                .param("before", Stamp.of(before))
                .param("most", most)
                .update();
    }

    private void dropFiles(Instant before) {
        jdbc.sql("delete from file_arrival where at < :before")
                .param("before", Stamp.of(before))
                .update();
    }
}
