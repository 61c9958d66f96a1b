package app.morvet.alerts;

/**
 * An alert that is up measures another value, without a change of severity.
 *
 * @param worst the worst value since it was raised
 * @param words what is wrong, in one line
 */
public record AlertCounted(long alert, long guard, double value, double worst, String words) {}
