package app.morvet.core.alert;

import java.util.Locale;

/** How bad an alert is. The order of the constants is the order of badness, the least first. */
public enum Severity {
    NOTICE,
    WARNING,
    CRITICAL;

    private final String word = name().toLowerCase(Locale.ROOT);

    /** The word shown to people: {@code notice}, {@code warning} or {@code critical}. */
    public String word() {
        return word;
    }

    public boolean worseThan(Severity other) {
        return compareTo(other) > 0;
    }
}
