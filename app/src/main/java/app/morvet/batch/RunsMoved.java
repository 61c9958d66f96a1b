package app.morvet.batch;

import app.morvet.core.alert.Transition;
import java.time.Instant;
import java.util.List;

/**
 * What a round over the night did to alerts. Published inside the transaction that stores it.
 *
 * @param moved   raised, rose, eased and cleared, in order of time
 * @param counted alerts that are up and say something else than before
 */
public record RunsMoved(List<Moved> moved, List<Counted> counted) {
    /**
     * @param component the job that it is about
     * @param cause     the job that brings it about; the same where it is the job itself
     * @param words     what is wrong, in one line
     */
    public record Moved(long guard, long component, long cause, Transition transition, String words) {}

    public record Counted(long guard, long component, Instant at, double value, double worst, String words) {}
}
