package app.morvet.alerts;

import app.morvet.core.alert.Transition;
import org.jspecify.annotations.Nullable;

/**
 * An alert was raised, rose, eased, flapped or cleared.
 *
 * @param alert     its id, the same from raised to cleared
 * @param source    what raised it
 * @param component the component that caused the change
 * @param words     what is wrong, in one line
 * @param worst     what was wrong when it was at the worst that the transition tells of; null where nobody can say
 */
public record AlertChanged(
        long alert, AlertSource source, long component, Transition transition, String words, @Nullable String worst) {}
