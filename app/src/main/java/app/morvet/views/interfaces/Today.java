package app.morvet.views.interfaces;

import app.morvet.ground.base.Remembered;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageIntake;
import app.morvet.views.interfaces.InterfaceStore.Day;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * What each interface has carried since midnight. The hours that are over for long are summed once for all who look, until something
 * comes in for one of them after all; only the last are read each time.
 */
@Component
class Today {
    /** An hour more than what comes in is told as late for: one that is being stored now may be of the hour before. */
    private static final Duration OPEN = MessageIntake.LATE.plusHours(1);

    private static final Duration DELAYS = Duration.ofHours(1);

    /** @param until the first hour that is not in it */
    private record Over(Instant midnight, Instant until, Map<Long, Day> days) {}

    private final InterfaceStore store;
    private final Times times;
    private final Remembered<Over> over;

    Today(InterfaceStore store, Times times, Live live) {
        this.store = store;
        this.times = times;
        this.over = new Remembered<>(
                this::read,
                one -> one.midnight().equals(midnight()) && one.until().equals(until()));
        live.hear(Set.of(MessageIntake.LATE_TOPIC), over::forget);
    }

    /** With the delays of the running hour and of the one before. */
    InterfaceStore.Since carried() {
        var before = over.get();
        var last = store.since(
                before.until(), times.now().truncatedTo(ChronoUnit.HOURS).minus(DELAYS));
        before.days().forEach((component, day) -> last.days().merge(component, day, Day::plus));
        return last;
    }

    private Over read() {
        var midnight = midnight();
        var until = until();
        return new Over(midnight, until, store.between(midnight, until));
    }

    Instant midnight() {
        return times.now()
                .atZone(times.zone())
                .toLocalDate()
                .atStartOfDay(times.zone())
                .toInstant();
    }

    private Instant until() {
        var until = times.now().truncatedTo(ChronoUnit.HOURS).minus(OPEN);
        return until.isBefore(midnight()) ? midnight() : until;
    }
}
