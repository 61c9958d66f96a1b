package app.morvet.core.guard;

import java.time.Duration;

/**
 * When an alert counts as flapping: raised so often within a time. It then stays up as one alert, says so, and clears
 * only after it has been calm for that whole time.
 *
 * @param times  2 to 20
 * @param within one minute to one day
 */
public record Damping(int times, Duration within) {
    public Damping {
        if (times < 2 || times > 20)
            throw new IllegalArgumentException("an alert flaps after 2 to 20 times, was " + times);
        if (within.compareTo(Duration.ofMinutes(1)) < 0 || within.compareTo(Duration.ofDays(1)) > 0) {
            throw new IllegalArgumentException("flapping is counted within 1 min to 24 h, was " + Spans.words(within));
        }
    }
}
