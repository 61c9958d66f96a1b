package app.morvet.core.actions;

import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.util.Map;

/**
 * What a guard has done by itself.
 *
 * @param action as outposts call it; {@value #IT} in it stands for the key of what the alert is about
 * @param atMost so often within a time, for all its subjects together
 * @param setBy  whose right it is done by
 */
public record GuardAction(
        long guard, String action, Map<String, String> arguments, int atMost, Duration within, long setBy) {
    public static final String IT = "*";
    private static final Duration SHORTEST = Duration.ofMinutes(1);
    private static final Duration LONGEST = Duration.ofDays(7);

    public GuardAction {
        if (action.isBlank() || action.length() > 100)
            throw new IllegalArgumentException("An action is called by 1 to 100 characters.");
        if (atMost < 1 || atMost > 100) throw new IllegalArgumentException("It is done 1 to 100 times at most.");
        if (within.compareTo(SHORTEST) < 0 || within.compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("The time within which it is counted is 1 min to 7 days.");
    }

    /** As it is chosen: an action that names what it is done to is chosen for whatever the alert is about. */
    public static String general(String action, String of) {
        return of.isEmpty() ? action : action.replace(of, IT);
    }

    /** Whether an outpost's action on a component is the one that is meant. */
    public boolean means(String offered, String component) {
        return offered.equals(action) || offered.equals(action.replace(IT, component));
    }

    public String words() {
        return "%s by itself, %d times in %s at most".formatted(action, atMost, Spans.words(within));
    }
}
