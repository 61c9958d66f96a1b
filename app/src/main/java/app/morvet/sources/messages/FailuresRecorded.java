package app.morvet.sources.messages;

import java.time.Instant;
import java.util.List;

/**
 * Failed messages are stored that were not known before. Published inside the transaction that stores them.
 *
 * @param failures one for each message
 */
public record FailuresRecorded(List<Failure> failures) {

    /**
     * @param component id of the interface
     * @param at        when it failed
     */
    public record Failure(long component, Instant at) {}
}
