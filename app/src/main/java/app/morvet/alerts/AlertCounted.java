package app.morvet.alerts;

import java.time.Instant;

/**
 * An alert that is up measures another value, without a change of severity.
 *
 * @param at    up to when it was judged
 * @param worst the worst value since it was raised
 * @param words what is wrong, in one line
 */
public record AlertCounted(long alert, AlertSource source, Instant at, double value, double worst, String words) {}
