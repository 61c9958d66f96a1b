package app.morvet.sources.readings;

import app.morvet.core.readings.Reading;
import app.morvet.core.readings.Readings;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** The stored readings of a series, whether their days are sealed or not. */
@Service
public class ReadingHistory {
    private final ReadingStore store;

    ReadingHistory(ReadingStore store) {
        this.store = store;
    }

    /** At and after {@code from} and before {@code to}, in order of time. */
    public Readings between(long series, Instant from, Instant to) {
        return store.between(series, from, to);
    }

    /** The newest reading since an instant that is not sealed yet. */
    public Optional<Reading> newest(long series, Instant since) {
        return store.newest(series, since);
    }
}
