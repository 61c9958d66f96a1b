package app.morvet.alerting.windows;

import app.morvet.core.windows.MaintenanceWindow;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * A maintenance window as it is kept.
 *
 * @param id       0 for one that is new
 * @param calendar whose holidays its rhythm means; empty where none
 * @param quiet    whether cases that were open before are quiet while it is on
 * @param told     how long before its begin the teams concerned are told; zero where at its begin and end only, null where not at all
 * @param madeBy   who made it, by id; null for the application itself
 */
public record StoredWindow(
        long id,
        MaintenanceWindow window,
        String calendar,
        boolean quiet,
        @Nullable Duration told,
        @Nullable Long madeBy,
        int version) {
    public static final Duration LONGEST_BEFORE = Duration.ofDays(14);

    /** @throws IllegalArgumentException where it is told of too long before */
    public StoredWindow {
        if (told != null && (told.isNegative() || told.compareTo(LONGEST_BEFORE) > 0))
            throw new IllegalArgumentException("teams are told of a window at most 14 days before it begins");
    }

    /** A new one, of which nobody is told. */
    public static StoredWindow fresh(MaintenanceWindow window) {
        return new StoredWindow(0, window, "", false, null, null, 0);
    }

    public StoredWindow with(MaintenanceWindow other) {
        return new StoredWindow(id, other, calendar, quiet, told, madeBy, version);
    }

    public StoredWindow madeBy(@Nullable Long person) {
        return new StoredWindow(id, window, calendar, quiet, told, person, version);
    }

    public StoredWindow toldBefore(@Nullable Duration before) {
        return new StoredWindow(id, window, calendar, quiet, before, madeBy, version);
    }

    StoredWindow version(int other) {
        return new StoredWindow(id, window, calendar, quiet, told, madeBy, other);
    }
}
