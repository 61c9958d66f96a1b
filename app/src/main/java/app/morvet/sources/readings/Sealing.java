package app.morvet.sources.readings;

import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.DayPartitions;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Seals the days that are over, some hours after their end so that late readings find them open, and drops what is old. */
@Component
public class Sealing implements Errand, AgedData {
    private static final Logger log = LoggerFactory.getLogger(Sealing.class);
    /** Guards are warmed from unsealed readings, so as much is left hot as their longest ordinary windows need. */
    private static final Duration OPEN = Duration.ofHours(30);

    private final ReadingStore store;
    private final DayPartitions partitions;
    private final Errands errands;
    private final TransactionTemplate transaction;
    private final MorvetSettings settings;
    private final Clock clock;

    Sealing(
            ReadingStore store,
            DayPartitions partitions,
            Errands errands,
            TransactionTemplate transaction,
            MorvetSettings settings,
            Clock clock) {
        this.store = store;
        this.partitions = partitions;
        this.errands = errands;
        this.transaction = transaction;
        this.settings = settings;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "seal-readings";
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        errands.unlessWaiting(clock.instant().plusSeconds(60), name(), "days");
    }

    @Override
    public Optional<Instant> run(String id) {
        over(clock.instant().minus(OPEN)).forEach(this::seal);
        return Optional.of(clock.instant().plus(Duration.ofHours(1)));
    }

    @Override
    public void dropOld(Instant now) {
        var first = now.minus(settings.keepReadings()).atOffset(ZoneOffset.UTC).toLocalDate();
        partitions.dropBefore("reading", first);
        partitions.dropBefore("sealed_day", first);
    }

    /** Seals all days that end before an instant. Somebody waits for it, so on all cores; in the background one is enough. */
    public void sealUpTo(Instant end) {
        over(end).parallelStream().forEach(this::seal);
    }

    /** The days that end before an instant and are not sealed; there is room for each. */
    private List<LocalDate> over(Instant end) {
        var over = store.hotDays().stream()
                .filter(day -> !start(day.plusDays(1)).isAfter(end))
                .toList();
        partitions.ensure("sealed_day", over.stream().map(Sealing::start).toList());
        return over;
    }

    private void seal(LocalDate day) {
        var sealed = transaction.execute(status -> store.seal(day));
        log.info("sealed {} readings of {}", sealed, day);
    }

    private static Instant start(LocalDate day) {
        return day.atStartOfDay(ZoneOffset.UTC).toInstant();
    }
}
