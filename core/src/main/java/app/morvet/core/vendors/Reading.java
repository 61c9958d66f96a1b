package app.morvet.core.vendors;

import java.util.List;
import java.util.Map;

/**
 * What one answer of a feed says.
 *
 * @param states    of the whole ({@value #WHOLE}) and of its parts, by name; empty where the feed tells of none
 * @param bulletins at most 200, in the order of the feed
 * @param faults    what could not be read as the settings say, in sentences; what is not understood is never guessed
 */
public record Reading(Map<String, VendorState> states, List<Bulletin> bulletins, List<String> faults) {
    /** The name of the whole instance among its parts. */
    public static final String WHOLE = "";

    /** More bulletins than these are left out, and so said. */
    public static final int MOST_BULLETINS = 200;

    public Reading {
        states = Map.copyOf(states);
        bulletins = List.copyOf(bulletins);
        faults = List.copyOf(faults);
    }
}
