package app.morvet.ground.access;

import java.time.Clock;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;

/** The record of what people changed, with before and after. Written in the transaction of the change itself. */
@Service
public class Audit {
    /** Something was changed by somebody; told within the transaction of the change. */
    public record Recorded(Person by, String what, String subject) {}

    private final AccessStore store;
    private final Clock clock;
    private final ApplicationEventPublisher events;

    Audit(AccessStore store, Clock clock, ApplicationEventPublisher events) {
        this.events = events;
        this.store = store;
        this.clock = clock;
    }

    /**
     * @param what    the act, such as {@code guard changed}
     * @param subject what it was done to, such as {@code guard 3}
     * @param before  how it was, in words, or null where it was not there
     * @param after   how it is now, or null where it is gone
     */
    public void record(Person person, String what, String subject, @Nullable String before, @Nullable String after) {
        store.addAudit(clock.instant(), person.id(), what, subject, before, after);
        events.publishEvent(new Recorded(person, what, subject));
    }
}
