package app.morvet.core.readings;

import java.time.Instant;

/** The stored past of one series, from which usual ranges and trends are learned. */
public interface Past {
    Past NONE = (from, to) -> Readings.NONE;

    /** The readings at and after {@code from} and before {@code to}, in order of time. */
    Readings between(Instant from, Instant to);
}
