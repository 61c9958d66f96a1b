package app.morvet.ground.base;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** How much work on the outside world waits though its time has come, and how large the database is. */
@Component
class ErrandsWaiting implements OwnFigure {
    /** What is due is begun within this, when all is well. */
    private static final Duration AT_ONCE = Duration.ofSeconds(15);

    private final JdbcClient jdbc;
    private final Clock clock;

    ErrandsWaiting(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    @Override
    public List<Figure> figures() {
        long waiting = jdbc.sql("select count(*) from scheduled_tasks where not picked and execution_time < :due")
                .param("due", Stamp.of(clock.instant().minus(AT_ONCE)))
                .query(Long.class)
                .single();
        long size = jdbc.sql("select pg_database_size(current_database())")
                .query(Long.class)
                .single();
        return List.of(
                new Figure("morvet_errands_waiting", "", "Errands whose time has come.", Map.of(), false, waiting),
                new Figure("morvet_database_size", "bytes", "Size of the database.", Map.of(), false, size));
    }
}
