package app.morvet.probe;

import java.net.http.HttpTimeoutException;
import java.time.Duration;

/** Since when a look runs, and how much of its time is left. */
public final class Watch {
    private final long start = System.nanoTime();
    private final Duration patience;

    public Watch(Duration patience) {
        this.patience = patience;
    }

    public Duration took() {
        return Duration.ofNanos(System.nanoTime() - start);
    }

    /** @throws HttpTimeoutException where nothing is */
    Duration left() throws HttpTimeoutException {
        var left = patience.minus(took());
        if (!left.isPositive()) throw new HttpTimeoutException("no answer in time");
        return left;
    }

    int leftMillis() throws HttpTimeoutException {
        return (int) Math.max(1, left().toMillis());
    }
}
