package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import app.morvet.MorvetTest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
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

    /** Waits, as a call to a host that does not answer. */
    private static final class Waiting implements Errand {
        private final CountDownLatch end = new CountDownLatch(1);
        private final AtomicInteger under = new AtomicInteger();
        private final AtomicInteger most = new AtomicInteger();
        private final AtomicInteger done = new AtomicInteger();

        @Override
        public String name() {
            return "waiting-of-a-test";
        }

        @Override
        public int atOnce() {
            return 2;
        }

        @Override
        public Optional<Instant> run(String id) {
            most.accumulateAndGet(under.incrementAndGet(), Math::max);
            try {
                end.await();
            } catch (InterruptedException stop) {
                Thread.currentThread().interrupt();
            }
            under.decrementAndGet();
            done.incrementAndGet();
            return Optional.empty();
        }
    }

    @Test
    void oneKindThatWaitsLeavesPlacesToTheOthersAndAllOfItIsDoneInTheEnd() throws Exception {
        var waiting = new Waiting();
        var ending = new Ending();
        var scheduler = new SchedulerConfiguration()
                .scheduler(dataSource, List.of(waiting, ending), errands, Clock.systemUTC());
        scheduler.start();
        try {
            for (int i = 0; i < 60; i++) errands.at(Instant.now(), waiting.name(), "w" + i);
            eventually(() -> assertThat(waiting.under).hasValue(2));
            errands.at(Instant.now(), ending.name(), "beside");
            eventually(() -> assertThat(ending.runs).hasPositiveValue());
            assertThat(waiting.most).hasValue(2);
            waiting.end.countDown();
            eventually(() -> assertThat(waiting.done).hasValue(60));
            assertThat(waiting.most).hasValue(2);
        } finally {
            waiting.end.countDown();
            scheduler.stop();
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
