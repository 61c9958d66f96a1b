package app.morvet.ground.base;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.function.LongSupplier;

/**
 * A clock that is set while the program runs: a file says how far it is ahead of another, as a duration of ISO 8601 such as
 * {@code PT10M}. It is read again after a tenth of a second, so all processes that share the file move together.
 */
final class FileClock extends Clock {
    private static final long READ_EVERY_NANOS = 100_000_000;

    private final Path file;
    private final Clock clock;
    private final LongSupplier nanos;
    private volatile Read read;

    private record Read(Duration ahead, long at) {}

    /** @throws IllegalArgumentException where the file says no duration; {@link UncheckedIOException} where it is not there */
    FileClock(Path file, Clock clock, LongSupplier nanos) {
        this.file = file;
        this.clock = clock;
        this.nanos = nanos;
        this.read = new Read(ahead(), nanos.getAsLong());
    }

    private Duration ahead() {
        try {
            return Duration.parse(Files.readString(file).strip());
        } catch (DateTimeException unreadable) {
            throw new IllegalArgumentException(
                    file + " must say how far the clock is ahead, such as PT10M or -PT5S", unreadable);
        } catch (IOException missing) {
            throw new UncheckedIOException(missing);
        }
    }

    @Override
    public Instant instant() {
        var last = read;
        long now = nanos.getAsLong();
        if (now - last.at() >= READ_EVERY_NANOS) {
            last = new Read(aheadNow(last.ahead()), now);
            read = last;
        }
        return clock.instant().plus(last.ahead());
    }

    /** What cannot be read at the moment, since it is being written, does not move the clock. */
    private Duration aheadNow(Duration before) {
        try {
            return ahead();
        } catch (IllegalArgumentException | UncheckedIOException unreadable) {
            return before;
        }
    }

    @Override
    public ZoneId getZone() {
        return clock.getZone();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return new FileClock(file, clock.withZone(zone), nanos);
    }
}
