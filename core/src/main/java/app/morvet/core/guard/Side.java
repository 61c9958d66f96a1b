package app.morvet.core.guard;

import java.util.Locale;

/** On which side of a limit values are bad. */
public enum Side {
    ABOVE,
    BELOW,
    /** Below the lower or above the upper of two values. */
    OUTSIDE,
    /** Exactly that value, such as a state given as a number. */
    EQUAL;

    public String word() {
        return this == EQUAL ? "at exactly" : name().toLowerCase(Locale.ROOT);
    }
}
