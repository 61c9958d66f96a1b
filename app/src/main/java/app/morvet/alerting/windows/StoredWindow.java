package app.morvet.alerting.windows;

import app.morvet.core.windows.MaintenanceWindow;
import org.jspecify.annotations.Nullable;

/**
 * A maintenance window as it is kept.
 *
 * @param id       0 for one that is new
 * @param calendar whose holidays its rhythm means; empty where none
 * @param quiet    whether cases that were open before are quiet while it is on
 * @param madeBy   who made it, by id; null for the application itself
 */
public record StoredWindow(
        long id, MaintenanceWindow window, String calendar, boolean quiet, @Nullable Long madeBy, int version) {
    public StoredWindow with(MaintenanceWindow other) {
        return new StoredWindow(id, other, calendar, quiet, madeBy, version);
    }
}
