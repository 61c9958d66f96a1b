package app.morvet.core.guard;

/**
 * Watches how much was counted in a window against a warning and a critical limit.
 *
 * @param window   what is counted together
 * @param limits   the values above which it alerts
 * @param clearing how far and how long the count must be back before the alert is over
 */
public record LimitGuard(CountWindow window, Limits limits, Clearing clearing) implements Guard {}
