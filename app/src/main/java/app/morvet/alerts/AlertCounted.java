package app.morvet.alerts;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An alert that is up measures another value, without a change of severity.
 *
 * @param at    up to when it was judged
 * @param worst the worst value since it was raised
 * @param words what is wrong, in one line
 * @param worstWords what was wrong when it was at its worst; null where nobody can say
 */
public record AlertCounted(
        long alert,
        AlertSource source,
        Instant at,
        double value,
        double worst,
        String words,
        @Nullable String worstWords) {}
