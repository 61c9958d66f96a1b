package app.morvet.alerts;

/**
 * An alert that is up measures another value, without a change of severity.
 *
 * @param worst the highest value since it was raised
 */
public record AlertCounted(long alert, long guard, long component, double value, double worst) {}
