package app.morvet.core.callouts;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Where the work on a case stands, as far as call-outs ask.
 *
 * @param over       nothing of it is wrong any more, or somebody settled it
 * @param taken      somebody has it
 * @param handedOff  its team has it, as a ticket
 * @param returned   its team gave it back, and nobody has dealt with that yet
 * @param quietUntil until when it is to be quiet, or null; quiet is no owner
 */
public record Standing(boolean over, boolean taken, boolean handedOff, boolean returned, @Nullable Instant quietUntil) {

    /** Of a case that has just opened. */
    public static final Standing NEW = new Standing(false, false, false, false, null);

    boolean quiet(Instant now) {
        return quietUntil != null && quietUntil.isAfter(now);
    }
}
