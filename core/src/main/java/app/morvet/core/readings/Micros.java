package app.morvet.core.readings;

import java.time.Duration;
import java.time.Instant;

/** Instants as microseconds since 1970, which is what the store keeps and what arrays of times hold. */
public final class Micros {
    private Micros() {}

    /** Rounded down; years beyond 290,000 are an {@link ArithmeticException}. */
    public static long of(Instant at) {
        return Math.addExact(Math.multiplyExact(at.getEpochSecond(), 1_000_000L), at.getNano() / 1000);
    }

    public static long of(Duration span) {
        return Math.addExact(Math.multiplyExact(span.getSeconds(), 1_000_000L), span.getNano() / 1000);
    }

    public static Instant instant(long micros) {
        return Instant.ofEpochSecond(Math.floorDiv(micros, 1_000_000L), Math.floorMod(micros, 1_000_000L) * 1000L);
    }
}
