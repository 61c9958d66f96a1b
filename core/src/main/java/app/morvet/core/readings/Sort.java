package app.morvet.core.readings;

import java.util.Locale;

/** What the values of a measure are, which says how they may be reckoned with. */
public enum Sort {
    /** A value that goes up and down, such as a temperature. */
    GAUGE,
    /** A total that only grows, and starts again at 0 when its counter is restarted. */
    COUNTER,
    /** So many happened at that instant; nothing heard means that nothing happened. */
    COUNT,
    /** The place of one of its {@link StateWords}; it stands until another is told. */
    STATE;

    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
