package app.morvet.sources.batch;

import app.morvet.core.batch.Job;
import app.morvet.ground.estate.Estate;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A job as it stands.
 *
 * @param feed      of the scheduler that runs it, or null while no run of it was told
 * @param fixNote   Markdown
 * @param agreed    whether people have said what it should do
 * @param heldSince since when the scheduler was asked to hold it, or null
 * @param knownSince before which nothing was expected of it
 * @param version   counts its changes, from 1
 */
public record StoredJob(
        Estate.Component component,
        @Nullable Long feed,
        JobSpec spec,
        Job job,
        String fixNote,
        boolean agreed,
        @Nullable Instant heldSince,
        Instant knownSince,
        int version) {
    public String key() {
        return component.key();
    }

    public String name() {
        return component.name();
    }
}
