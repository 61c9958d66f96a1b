package app.morvet.sources.readings;

import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;

/**
 * A named quantity.
 *
 * @param unit as it was told at first sight; may be empty. Of a state its words
 */
public record Measure(long id, String name, Sort sort, String unit, String help) {
    /** The measure of failed messages, which are counted from the messages themselves. */
    public static final String FAILED_MESSAGES = "failed_messages";

    /** The measure of changes that no window had planned. */
    public static final String UNPLANNED_CHANGES = "changes_outside_windows";

    /** Whether it is that of failed messages, of which many may fail at one instant. */
    public boolean countsFailures() {
        return name.equals(FAILED_MESSAGES);
    }

    public boolean isState() {
        return sort == Sort.STATE;
    }

    /** The words that a state knows; none of what is no state. */
    public StateWords stateWords() {
        return isState() ? StateWords.parse(unit) : StateWords.NONE;
    }

    /** The name as people read it: {@code response time p95}. */
    public String words() {
        return name.replace('_', ' ');
    }

    /** The unit as people write it. */
    public String unitWords() {
        return switch (unit) {
            case "percent" -> "%";
            case "seconds" -> "s";
            case "milliseconds" -> "ms";
            default -> unit;
        };
    }
}
