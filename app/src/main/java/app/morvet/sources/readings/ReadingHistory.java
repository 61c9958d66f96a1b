package app.morvet.sources.readings;

import app.morvet.core.readings.Reading;
import app.morvet.core.readings.Readings;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** The stored readings of series, whether their days are sealed or not. */
@Service
public class ReadingHistory {
    private final HistoryStore store;

    ReadingHistory(HistoryStore store) {
        this.store = store;
    }

    /** At and after {@code from} and before {@code to}, in order of time. */
    public Readings between(long series, Instant from, Instant to) {
        return between(List.of(series), from, to).getOrDefault(series, Readings.NONE);
    }

    /** The same of several series, by their ids; those that have none are left out. */
    public Map<Long, Readings> between(Collection<Long> series, Instant from, Instant to) {
        return store.between(series, from, to);
    }

    /** The newest reading since an instant that is not sealed yet. */
    public Optional<Reading> newest(long series, Instant since) {
        return store.newest(series, since);
    }
}
