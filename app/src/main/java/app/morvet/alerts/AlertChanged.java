package app.morvet.alerts;

import app.morvet.core.alert.Transition;

/**
 * An alert was raised, rose, eased or cleared.
 *
 * @param alert     its id, the same from raised to cleared
 * @param guard     the guard that raised it
 * @param component the interface it stands on
 */
public record AlertChanged(long alert, long guard, long component, Transition transition) {}
