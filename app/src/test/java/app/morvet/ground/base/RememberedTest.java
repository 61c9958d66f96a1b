package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class RememberedTest {
    @Test
    void itIsReadOnceUntilItIsForgotten() {
        var reads = new AtomicInteger();
        var remembered = new Remembered<>(reads::incrementAndGet, value -> true);
        assertThat(remembered.get()).isEqualTo(1);
        assertThat(remembered.get()).isEqualTo(1);
        remembered.forget();
        assertThat(remembered.get()).isEqualTo(2);
    }

    @Test
    void whatIsNotFreshIsReadAgain() {
        var reads = new AtomicInteger();
        var remembered = new Remembered<>(reads::incrementAndGet, value -> value >= 3);
        assertThat(remembered.get()).isEqualTo(1);
        assertThat(remembered.get()).isEqualTo(2);
        assertThat(remembered.get()).isEqualTo(3);
        assertThat(remembered.get()).isEqualTo(3);
    }

    /** The store is read, then changed, then forgotten, and only then the read comes back: it must not stay. */
    @Test
    void whatWasReadBeforeAChangeIsNotRemembered() throws Exception {
        var store = new AtomicInteger(1);
        var read = new CountDownLatch(1);
        var goOn = new CountDownLatch(1);
        var first = new AtomicInteger();
        var remembered = new Remembered<>(
                () -> {
                    int value = store.get();
                    if (first.getAndIncrement() == 0) {
                        read.countDown();
                        await(goOn);
                    }
                    return value;
                },
                value -> true);
        var slow = CompletableFuture.supplyAsync(remembered::get);
        read.await();
        store.set(2);
        remembered.forget();
        goOn.countDown();
        assertThat(slow.get()).isEqualTo(1);
        assertThat(remembered.get()).isEqualTo(2);
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException stop) {
            throw new IllegalStateException(stop);
        }
    }
}
