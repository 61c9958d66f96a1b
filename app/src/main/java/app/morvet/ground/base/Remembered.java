package app.morvet.ground.base;

import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Predicate;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What is read from the store now and then and asked for all the time. What was being read while it was forgotten is given to
 * whoever asked, and not remembered: it may have been read before the change that made it old.
 *
 * <p>A transaction that forgets it has changed it: until its end it reads what it sees itself, which no other is given, and
 * nothing that others read meanwhile is given to it. At its end all forget it, before whoever looks again then.
 */
public final class Remembered<T> {
    private final Supplier<T> read;
    private final Predicate<T> fresh;
    private final AtomicLong forgotten = new AtomicLong();
    /** How many transactions have changed it and are not over; while there is none, nobody need ask whether it is theirs. */
    private final AtomicInteger changers = new AtomicInteger();

    private volatile @Nullable T value;

    /** @param fresh whether what is remembered may be used still */
    public Remembered(Supplier<T> read, Predicate<T> fresh) {
        this.read = read;
        this.fresh = fresh;
    }

    public T get() {
        var changing = changing();
        if (changing != null) return changing.get();
        var kept = value;
        if (kept != null && fresh.test(kept)) return kept;
        long before = forgotten.get();
        kept = read.get();
        synchronized (this) {
            if (forgotten.get() == before) value = kept;
        }
        return kept;
    }

    public void forget() {
        if (!TransactionSynchronizationManager.isActualTransactionActive()
                || !TransactionSynchronizationManager.isSynchronizationActive()) {
            forgetForAll();
            return;
        }
        var changing = changing();
        if (changing == null) {
            changing = new Changing();
            TransactionSynchronizationManager.bindResource(this, changing);
            changers.incrementAndGet();
            TransactionSynchronizationManager.registerSynchronization(changing);
        }
        changing.own = null;
    }

    private synchronized void forgetForAll() {
        forgotten.incrementAndGet();
        value = null;
    }

    @SuppressWarnings("unchecked")
    private @Nullable Changing changing() {
        if (changers.get() == 0) return null;
        return (Changing) TransactionSynchronizationManager.getResource(this);
    }

    /** What the transaction sees that has changed it; one that is begun within it does not. */
    private final class Changing implements TransactionSynchronization {
        private @Nullable T own;

        private T get() {
            var kept = own;
            if (kept == null || !fresh.test(kept)) own = kept = read.get();
            return kept;
        }

        @Override
        public int getOrder() {
            return Ordered.HIGHEST_PRECEDENCE;
        }

        @Override
        public void suspend() {
            TransactionSynchronizationManager.unbindResource(Remembered.this);
        }

        @Override
        public void resume() {
            TransactionSynchronizationManager.bindResource(Remembered.this, this);
        }

        @Override
        public void afterCompletion(int status) {
            TransactionSynchronizationManager.unbindResourceIfPossible(Remembered.this);
            changers.decrementAndGet();
            forgetForAll();
        }
    }
}
