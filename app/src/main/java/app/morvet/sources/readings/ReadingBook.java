package app.morvet.sources.readings;

import app.morvet.core.readings.Buckets;
import java.util.Optional;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Stores readings in the transaction that acknowledges them, and passes on which are new. */
@Service
public class ReadingBook {
    private final ReadingStore store;
    private final ApplicationEventPublisher events;

    ReadingBook(ReadingStore store, ApplicationEventPublisher events) {
        this.store = store;
        this.events = events;
    }

    /** Makes ready for readings of some times; before the transaction that stores them. */
    public void prepare(long[] times) {
        store.prepare(times);
    }

    /** Whether a histogram was told before. */
    public boolean knows(String key) {
        return store.knows(key);
    }

    /**
     * Stores readings, of times for which it was made ready.
     *
     * @return how many of them were new
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public int add(long[] series, long[] times, double[] values) {
        if (series.length == 0) return 0;
        var recorded = store.add(series, times, values);
        if (recorded.series().length > 0) events.publishEvent(recorded);
        return recorded.series().length;
    }

    /** What was added to a histogram since its last page; empty at the first. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Optional<Buckets> since(String key, Buckets now) {
        return store.exchange(key, now).map(now::since);
    }
}
