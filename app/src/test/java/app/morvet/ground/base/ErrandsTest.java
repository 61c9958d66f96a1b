package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import app.morvet.MorvetTest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Work that is put down while the same work is under way. */
class ErrandsTest extends MorvetTest {
    @Autowired
    Errands errands;

    @Autowired
    DataSource dataSource;

    @Test
    void oneThatANodeWasAtWhenItDiedIsLeftToBeRevived() {
        var later = Instant.now().plus(Duration.ofDays(1));
        errands.at(later, "doubt-guards", "987654321");
        jdbc.sql(
                        "update scheduled_tasks set picked = true, picked_by = 'dead', last_heartbeat = now() where task_instance = '987654321'")
                .update();
        try {
            assertThatCode(() -> errands.at(Instant.now(), "doubt-guards", "987654321"))
                    .doesNotThrowAnyException();
            errands.unlessWaiting(Instant.now(), "doubt-guards", "987654321");
            assertThat(jdbc.sql("select count(*) from scheduled_tasks where task_instance = '987654321' and picked")
                            .query(Long.class)
                            .single())
                    .isEqualTo(1);
        } finally {
            jdbc.sql("delete from scheduled_tasks where task_instance = '987654321'")
                    .update();
        }
    }

    /** Ends with nothing left to do, while somebody puts it down once more. */
    private final class Ending implements Errand {
        private final AtomicInteger runs = new AtomicInteger();
        private final AtomicBoolean wanted = new AtomicBoolean();

        @Override
        public String name() {
            return "ending-of-a-test";
        }

        @Override
        public Optional<Instant> run(String id) {
            if (runs.incrementAndGet() == 1) {
                wanted.set(true);
                errands.at(Instant.now(), name(), id);
            } else {
                wanted.set(false);
            }
            return Optional.empty();
        }

        @Override
        public boolean wanted(String id) {
            return wanted.get();
        }
    }

    @Test
    void whatIsWantedWhileItEndsIsDoneAfterIt() throws Exception {
        var ending = new Ending();
        var scheduler = new SchedulerConfiguration().scheduler(dataSource, List.of(ending), errands, Clock.systemUTC());
        scheduler.start();
        try {
            errands.at(Instant.now(), ending.name(), "1");
            eventually(() -> assertThat(ending.runs).hasValue(2));
            eventually(() -> assertThat(jdbc.sql("select count(*) from scheduled_tasks where task_name = :name")
                            .param("name", ending.name())
                            .query(Long.class)
                            .single())
                    .isZero());
        } finally {
            scheduler.stop();
        }
    }
}
