package app.morvet.ground.base;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Drops what is older than it is kept, and makes the days to come, once an hour, on one node. */
@Component
class Retention implements Errand {
    private static final Logger log = LoggerFactory.getLogger(Retention.class);
    private static final Duration EVERY = Duration.ofHours(1);

    private final List<AgedData> aged;
    private final DayPartitions partitions;
    private final Errands errands;
    private final Clock clock;

    Retention(List<AgedData> aged, DayPartitions partitions, Errands errands, Clock clock) {
        this.aged = aged;
        this.partitions = partitions;
        this.errands = errands;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "drop-old";
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        errands.unlessWaiting(clock.instant().plusSeconds(120), name(), "all");
    }

    @Override
    public Optional<Instant> run(String id) {
        var now = clock.instant();
        partitions.makeAhead(now);
        for (var one : aged) {
            try {
                one.dropOld(now);
            } catch (RuntimeException failed) {
                log.error("{} could not drop what is old; it is tried again in an hour", one.getClass(), failed);
            }
        }
        return Optional.of(now.plus(EVERY));
    }
}
