package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.AbstractPlatformTransactionManager;
import org.springframework.transaction.support.DefaultTransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;

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

    /** Who has changed it goes on by what was changed, whatever others read meanwhile; and others have it once it stands. */
    @Test
    void whoeverChangesItReadsItsOwnUntilItStands() {
        var standing = new AtomicInteger(1);
        var seen = ThreadLocal.withInitial(standing::get);
        var remembered = new Remembered<>(() -> seen.get(), value -> true);
        var transactions = new Transactions();
        assertThat(remembered.get()).isEqualTo(1);
        new TransactionTemplate(transactions).executeWithoutResult(status -> {
            seen.set(2);
            remembered.forget();
            assertThat(elsewhere(remembered)).isEqualTo(1);
            assertThat(remembered.get()).isEqualTo(2);
            seen.set(3);
            assertThat(remembered.get()).isEqualTo(2);
            remembered.forget();
            assertThat(remembered.get()).isEqualTo(3);
            assertThat(elsewhere(remembered)).isEqualTo(1);
            var within = new TransactionTemplate(transactions);
            within.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
            assertThat(within.<Integer>execute(inner -> remembered.get())).isEqualTo(1);
            assertThat(remembered.get()).isEqualTo(3);
            standing.set(3);
        });
        assertThat(elsewhere(remembered)).isEqualTo(3);
    }

    @Test
    void whatIsTakenBackIsForgottenToo() {
        var seen = new AtomicInteger(1);
        var remembered = new Remembered<>(seen::get, value -> true);
        new TransactionTemplate(new Transactions()).executeWithoutResult(status -> {
            seen.set(2);
            remembered.forget();
            assertThat(remembered.get()).isEqualTo(2);
            status.setRollbackOnly();
            seen.set(1);
        });
        assertThat(remembered.get()).isEqualTo(1);
    }

    private static int elsewhere(Remembered<Integer> remembered) {
        try (var other = Executors.newSingleThreadExecutor()) {
            return other.submit(remembered::get).get();
        } catch (InterruptedException | ExecutionException wrong) {
            throw new IllegalStateException(wrong);
        }
    }

    /** Transactions over nothing. */
    @SuppressWarnings("serial")
    private static final class Transactions extends AbstractPlatformTransactionManager {
        private int depth;

        @Override
        protected Object doGetTransaction() {
            return this;
        }

        @Override
        protected boolean isExistingTransaction(Object transaction) {
            return depth > 0;
        }

        @Override
        protected void doBegin(Object transaction, TransactionDefinition definition) {
            depth++;
        }

        @Override
        protected Object doSuspend(Object transaction) {
            return transaction;
        }

        @Override
        protected void doResume(Object transaction, Object suspended) {}

        @Override
        protected void doCommit(DefaultTransactionStatus status) {
            depth--;
        }

        @Override
        protected void doRollback(DefaultTransactionStatus status) {
            depth--;
        }
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException stop) {
            throw new IllegalStateException(stop);
        }
    }
}
