package app.morvet.work.handoffs;

import app.morvet.ground.base.Errand;
import app.morvet.ground.connections.Unanswered;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Looks at a ticket again and again until its team is through with it. A call-back only makes it look at once. */
@Component
class HandoffFollowing implements Errand {
    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(2);

    private final HandoffStore store;
    private final HandoffDesk handoffs;
    private final Desk desk;
    private final Desks desks;
    private final Times times;

    HandoffFollowing(HandoffStore store, HandoffDesk handoffs, Desk desk, Desks desks, Times times) {
        this.store = store;
        this.handoffs = handoffs;
        this.desk = desk;
        this.desks = desks;
        this.times = times;
    }

    @Override
    public String name() {
        return HandoffDesk.FOLLOWING;
    }

    @Override
    public Optional<Instant> run(String text) {
        var id = UUID.fromString(text);
        var handoff = store.byId(id).orElseThrow();
        if (!handoff.state().followed()) return Optional.empty();
        var connection = desks.byId(handoff.connection()).orElseThrow();
        var pause = Duration.ofSeconds(connection.pollSeconds());
        try {
            var ticket = desk.look(connection, handoff.ticket());
            handoffs.follow(id, ticket, times.now());
            return ticket.state().followed() ? Optional.of(times.now().plus(pause)) : Optional.empty();
        } catch (Unanswered failed) {
            store.lookFailed(id, failed.words());
            var longer = pause.multipliedBy(1L << Math.min(handoff.failures(), 10));
            return Optional.of(times.now().plus(longer.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : longer));
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return Optional.of(times.now());
        }
    }
}
