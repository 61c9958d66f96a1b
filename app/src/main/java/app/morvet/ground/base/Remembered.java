package app.morvet.ground.base;

import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Predicate;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * What is read from the store now and then and asked for all the time. What was being read while it was forgotten is given to
 * whoever asked, and not remembered: it may have been read before the change that made it old.
 */
public final class Remembered<T> {
    private final Supplier<T> read;
    private final Predicate<T> fresh;
    private final AtomicLong forgotten = new AtomicLong();
    private volatile @Nullable T value;

    /** @param fresh whether what is remembered may be used still */
    public Remembered(Supplier<T> read, Predicate<T> fresh) {
        this.read = read;
        this.fresh = fresh;
    }

    public T get() {
        var kept = value;
        if (kept != null && fresh.test(kept)) return kept;
        long before = forgotten.get();
        kept = read.get();
        synchronized (this) {
            if (forgotten.get() == before) value = kept;
        }
        return kept;
    }

    public synchronized void forget() {
        forgotten.incrementAndGet();
        value = null;
    }
}
