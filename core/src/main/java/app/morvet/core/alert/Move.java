package app.morvet.core.alert;

import org.jspecify.annotations.Nullable;

/**
 * A change of one alert, or a word that it says anew.
 *
 * @param key        what it is one alert for, within its origin
 * @param subject    what of the component it speaks of, by an id that its origin knows: a series, a failure family; or null
 * @param transition what changed; {@link Transition.Kind#SAYS} where only its value did
 * @param words      what is wrong now, in one line
 * @param worstWords what was wrong when it was at the worst that the transition tells of; null where nobody can say
 * @param occasion   see {@link Finding}
 */
public record Move(
        Origin origin,
        String key,
        About about,
        @Nullable Long subject,
        Transition transition,
        String words,
        @Nullable String worstWords,
        String occasion) {

    public Move(Origin origin, String key, About about, Transition transition, String words, @Nullable String worst) {
        this(origin, key, about, null, transition, words, worst, "");
    }
}
