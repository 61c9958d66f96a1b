package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Semaphore;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.DefaultTransactionDefinition;

/** Work that is put down while the same work is under way. */
class ErrandsTest extends MorvetTest {
    private static final Instant AT = Instant.parse("2027-03-18T02:38:00Z");

    @Autowired
    Errands errands;

    @Autowired
    DataSource dataSource;

    @Autowired
    PlatformTransactionManager transactions;

    /** Is at it until it is let go, then says when it comes again by itself. */
    private static final class Held implements Errand {
        private final AtomicInteger begun = new AtomicInteger();
        private final Semaphore mayEnd = new Semaphore(0);
        private final @Nullable Duration again;

        private Held(@Nullable Duration again) {
            this.again = again;
        }

        @Override
        public String name() {
            return "held-of-a-test";
        }

        @Override
        public Optional<Instant> run(String id) {
            begun.incrementAndGet();
            mayEnd.acquireUninterruptibly();
            return Optional.ofNullable(again).map(Instant.now()::plus);
        }
    }

    /** What waits of it; empty where it is at an end. */
    private Optional<Instant> waits(String id) {
        return jdbc.sql("select execution_time from scheduled_tasks where task_instance = :id and not picked")
                .param("id", id)
                .query((row, number) -> Stamp.in(row, "execution_time"))
                .optional();
    }

    private void forget(String id) {
        jdbc.sql("delete from scheduled_tasks where task_instance = :id")
                .param("id", id)
                .update();
    }

    private void with(Held held, Check look) throws Exception {
        var scheduler = new SchedulerConfiguration().scheduler(dataSource, List.of(held), errands, Clock.systemUTC());
        scheduler.start();
        try {
            look.run();
        } finally {
            held.mayEnd.release(100);
            scheduler.stop();
            jdbc.sql("delete from scheduled_tasks where task_name = 'held-of-a-test'")
                    .update();
        }
    }

    private long waitingForALock() {
        return jdbc.sql("select count(*) from pg_locks where not granted and locktype in ('transactionid', 'tuple')")
                .query(Long.class)
                .single();
    }

    private void isAtIt(Held held, int times) throws Exception {
        eventually(() -> assertThat(held.begun).hasValue(times));
    }

    @Test
    void oneThatANodeWasAtWhenItDiedIsLeftToBeRevivedAndDoneOnceMoreAfterIt() {
        var id = "987654321";
        errands.at(Instant.now().plus(Duration.ofDays(1)), "doubt-guards", id);
        jdbc.sql(
                        "update scheduled_tasks set picked = true, picked_by = 'dead', last_heartbeat = now() where task_instance = '987654321'")
                .update();
        try {
            errands.at(AT, "doubt-guards", id);
            errands.unlessWaiting(AT.plusSeconds(1), "doubt-guards", id);
            assertThat(jdbc.sql("select wanted_at from scheduled_tasks where task_instance = :id and picked")
                            .param("id", id)
                            .query((row, number) -> Stamp.in(row, "wanted_at"))
                            .single())
                    .isEqualTo(AT);
        } finally {
            forget(id);
        }
    }

    @Test
    void oneThatWaitsIsMovedOrLeft() {
        var id = "987654322";
        try {
            errands.unlessWaiting(AT.plusSeconds(60), "doubt-guards", id);
            errands.unlessWaiting(AT, "doubt-guards", id);
            assertThat(waits(id)).contains(AT.plusSeconds(60));
            errands.at(AT.plusSeconds(90), "doubt-guards", id);
            assertThat(waits(id)).contains(AT.plusSeconds(90));
            errands.at(AT, "doubt-guards", id);
            assertThat(waits(id)).contains(AT);
            // One that is about to begin is left as it is, too.
            var soon = Instant.now().plusSeconds(8).truncatedTo(ChronoUnit.SECONDS);
            errands.at(soon, "doubt-guards", id);
            errands.unlessWaiting(AT, "doubt-guards", id);
            assertThat(waits(id)).contains(soon);
        } finally {
            forget(id);
        }
    }

    @Test
    void whatIsWantedWhileItIsAtItIsDoneAfterItThoughItWouldHaveWaited() throws Exception {
        var held = new Held(Duration.ofHours(1));
        with(held, () -> {
            errands.at(Instant.now(), held.name(), "try");
            isAtIt(held, 1);
            errands.at(Instant.now(), held.name(), "try");
            held.mayEnd.release();
            isAtIt(held, 2);
            held.mayEnd.release();
            // Only once more: what it then asks for itself stands.
            eventually(() -> assertThat(waits("try")).hasValueSatisfying(at -> assertThat(at)
                    .isAfter(Instant.now().plus(Duration.ofMinutes(50)))));
            assertThat(held.begun).hasValue(2);
        });
    }

    @Test
    void whatIsWantedLaterDoesNotPutOffWhatItAsksForItself() throws Exception {
        var held = new Held(Duration.ofMinutes(10));
        with(held, () -> {
            errands.at(Instant.now(), held.name(), "soon");
            isAtIt(held, 1);
            errands.at(Instant.now().plus(Duration.ofHours(5)), held.name(), "soon");
            held.mayEnd.release();
            eventually(() -> assertThat(waits("soon")).hasValueSatisfying(at -> assertThat(at)
                    .isBefore(Instant.now().plus(Duration.ofMinutes(11)))));
        });
    }

    @Test
    void whatHasNothingLeftToDoComesWhenItWasWantedAndNotAgainAfterThat() throws Exception {
        var held = new Held(null);
        with(held, () -> {
            errands.at(Instant.now(), held.name(), "ended");
            isAtIt(held, 1);
            errands.unlessWaiting(Instant.now(), held.name(), "ended");
            held.mayEnd.release();
            isAtIt(held, 2);
            held.mayEnd.release();
            eventually(() -> assertThat(jdbc.sql("select count(*) from scheduled_tasks where task_instance = 'ended'")
                            .query(Long.class)
                            .single())
                    .isZero());
        });
    }

    /** Its run cannot have seen what is not committed yet. */
    @Test
    void whatIsWantedByATransactionThatEndsAfterItIsDoneAfterThat() throws Exception {
        var held = new Held(null);
        with(held, () -> {
            errands.at(Instant.now(), held.name(), "late");
            isAtIt(held, 1);
            var open = new DefaultTransactionDefinition();
            var status = transactions.getTransaction(open);
            try {
                errands.at(Instant.now(), held.name(), "late");
                held.mayEnd.release();
                eventually(() -> assertThat(waitingForALock())
                        .as("it waits for this transaction before it ends")
                        .isPositive());
                assertThat(held.begun).hasValue(1);
            } finally {
                transactions.commit(status);
            }
            isAtIt(held, 2);
        });
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
        var beside = new Held(null);
        var scheduler = new SchedulerConfiguration()
                .scheduler(dataSource, List.of(waiting, beside), errands, Clock.systemUTC());
        scheduler.start();
        try {
            for (int i = 0; i < 60; i++) errands.at(Instant.now(), waiting.name(), "w" + i);
            eventually(() -> assertThat(waiting.under).hasValue(2));
            errands.at(Instant.now(), beside.name(), "beside");
            isAtIt(beside, 1);
            assertThat(waiting.most).hasValue(2);
            waiting.end.countDown();
            eventually(() -> assertThat(waiting.done).hasValue(60));
            assertThat(waiting.most).hasValue(2);
        } finally {
            waiting.end.countDown();
            beside.mayEnd.release();
            scheduler.stop();
        }
    }

    /** For a past that is gone through: nobody runs what is of a name that no errand has. */
    @Test
    void whatIsDueIsTakenInItsOrderAndOnce() {
        var name = "past-of-a-test";
        var all = List.of("another-of-a-test", name);
        assertThat(errands.first(all)).isEmpty();
        long before = errands.changes();
        errands.at(AT.minusSeconds(60), name, "second");
        errands.at(AT.minusSeconds(120), name, "first");
        errands.at(AT.plusSeconds(1), name, "later");
        assertThat(errands.changes()).isGreaterThanOrEqualTo(before + 3);
        assertThat(errands.first(all)).contains(AT.minusSeconds(120));
        assertThat(errands.first(List.of("another-of-a-test"))).isEmpty();
        var due = errands.due(name, AT);
        assertThat(due).extracting(Errands.Due::id).containsExactly("first", "second");
        before = errands.changes();
        due.forEach(errands::takeBack);
        assertThat(errands.changes()).isGreaterThanOrEqualTo(before + 2);
        assertThat(errands.first(all)).contains(AT.plusSeconds(1));
        assertThat(waits("later")).contains(AT.plusSeconds(1));
        forget("later");
    }
}
