package app.morvet.core.alert;

import java.util.Locale;

/** How bad an alert is. The order of the constants is the order of badness, the least first. */
public enum Severity {
    NOTICE,
    WARNING,
    CRITICAL;

    /** The word shown to people: {@code notice}, {@code warning} or {@code critical}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public boolean worseThan(Severity other) {
        return compareTo(other) > 0;
    }
}
