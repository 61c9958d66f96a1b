package app.morvet.ground.base;

import java.time.Duration;
import java.time.Instant;
import org.springframework.context.SmartLifecycle;

/**
 * What judges live as time goes on and can go through a past in the same way, step by step, as long as it is stopped. Those
 * that are to go first bear an order.
 */
public interface PastRound extends SmartLifecycle {
    /** How long its steps are. */
    Duration step();

    /**
     * Makes ready to go through a past.
     *
     * @throws IllegalStateException while it runs live
     */
    Walk walk(Instant from, Instant to);

    /** A past that is gone through, in one transaction. */
    interface Walk {
        /** Goes on to an instant, as it would have been live. */
        void goTo(Instant now);

        /** It has come to its end; live judging goes on from there. */
        default void end() {}
    }
}
