package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** How work is done in rounds: what comes close behind is done with what came first, and nothing waits for ever. */
class RoundsTest {
    private static final class Tides extends Rounds {
        final AtomicInteger told = new AtomicInteger();
        final List<Integer> done = new CopyOnWriteArrayList<>();
        final CountDownLatch begun = new CountDownLatch(1);
        private final Duration quiet;

        Tides(Duration quiet) {
            super("tides", new Undone("Tides are not told", "Tides are told late", "/tides"), Duration.ofHours(1));
            this.quiet = quiet;
        }

        void tell() {
            told.incrementAndGet();
            wake();
        }

        boolean waits() {
            return wokenAgain();
        }

        @Override
        protected boolean round() throws InterruptedException {
            begun.countDown();
            gather(quiet, 3);
            done.add(told.getAndSet(0));
            return false;
        }
    }

    private Tides tides = new Tides(Duration.ofMillis(500));

    @AfterEach
    void end() {
        tides.stop();
    }

    @Test
    void whatComesCloseBehindIsDoneInTheSameRound() throws Exception {
        tides.start();
        tides.tell();
        tides.begun.await();
        for (int i = 0; i < 5; i++) tides.tell();
        await().until(() -> !tides.done.isEmpty());
        assertThat(tides.done).containsExactly(6);
        assertThat(tides.waits()).as("another round for what was done").isFalse();
        await().untilAsserted(() -> assertThat(tides.behind()).isEmpty());
    }

    @Test
    void whatComesWithoutEndIsDoneAllTheSame() throws Exception {
        tides = new Tides(Duration.ofMillis(20));
        tides.start();
        var telling = Thread.ofPlatform().daemon().start(() -> {
            while (!Thread.currentThread().isInterrupted()) {
                tides.tell();
                Thread.onSpinWait();
            }
        });
        await().until(() -> tides.done.size() > 2);
        telling.interrupt();
        telling.join();
    }
}
