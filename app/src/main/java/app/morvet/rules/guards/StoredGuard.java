package app.morvet.rules.guards;

import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Watch;
import org.jspecify.annotations.Nullable;

/**
 * A guard as it stands: its rule, what it watches, and what to do when it calls.
 *
 * @param active  whether it is switched on
 * @param fixNote Markdown
 * @param owner   id of the team that owns what it finds, in place of the application's; or null
 * @param version counts its changes, from 1
 * @param deleted whether it only stands in the record
 */
public record StoredGuard(
        long id,
        String name,
        boolean active,
        Watch watch,
        Guard rule,
        String fixNote,
        @Nullable Long owner,
        int version,
        boolean deleted) {
    public StoredGuard(
            long id,
            String name,
            boolean active,
            Watch watch,
            Guard rule,
            String fixNote,
            @Nullable Long owner,
            int version) {
        this(id, name, active, watch, rule, fixNote, owner, version, false);
    }

    StoredGuard switched(boolean on) {
        return new StoredGuard(id, name, on, watch, rule, fixNote, owner, version, deleted);
    }
}
