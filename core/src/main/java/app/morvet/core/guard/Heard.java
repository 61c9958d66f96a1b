package app.morvet.core.guard;

import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import java.time.Duration;

/**
 * What is heard of one series, as an evaluation is given it.
 *
 * @param readings the recent ones: they must reach back over the guard's {@link Guard#reach()}, with one more before
 * @param ceiling  those of the measure that is the ceiling; none where there is none
 * @param past     the stored past, asked by trends and bands
 * @param cadence  how often the feed promised to be heard
 * @param seer     learns from that past what is usual, and where it is heading
 * @param words    what its values mean, of a state
 */
public record Heard(
        Readings readings, Readings ceiling, Past past, Sort sort, Duration cadence, Seer seer, StateWords words) {
    public Heard(Readings readings, Readings ceiling, Past past, Sort sort, Duration cadence) {
        this(readings, ceiling, past, sort, cadence, Seer.FRESH, StateWords.NONE);
    }

    public static Heard of(Readings readings, Sort sort, Duration cadence) {
        return new Heard(readings, Readings.NONE, readings, sort, cadence);
    }

    public static Heard ofState(Readings readings, StateWords words, Duration cadence) {
        return new Heard(readings, Readings.NONE, readings, Sort.STATE, cadence, Seer.FRESH, words);
    }
}
