package app.morvet.core.alert;

import java.time.Instant;

/**
 * An alert that is up, as its life goes on from there.
 *
 * @param worst the worst value since it was raised
 * @param words what it says now
 */
public record Raised(
        Origin origin,
        String key,
        About about,
        Instant since,
        Severity level,
        double value,
        double worst,
        String words,
        String occasion) {}
