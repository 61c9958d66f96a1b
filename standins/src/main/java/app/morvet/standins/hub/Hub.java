package app.morvet.standins.hub;

import app.morvet.standins.Keep;
import app.morvet.standins.StandInSettings;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * The integration hub. Goes through time from where it last reported to now, a step at a time: in large steps through
 * what is past, second by second once it has caught up. What Morvet does not take is offered again, so an outage on
 * either side leaves no gap and, with the same ids, nothing twice.
 */
@Component
class Hub {
    private static final Duration LARGE_STEP = Duration.ofMinutes(5);
    private static final Duration LIVE = Duration.ofMinutes(2);

    /**
     * @param start      when the hub first started
     * @param reportedTo up to where failures are reported
     * @param countedTo  up to where delivered messages are counted and reported; a whole minute
     * @param episodes   all trouble, of the past and of the panel
     */
    record Memory(Instant start, Instant reportedTo, Instant countedTo, List<Episode> episodes) {}

    /** One interface as the panel shows it. */
    record Shown(String key, String name, String rate, @Nullable String broken) {}

    private final Keep keep;
    private final Reporter reporter;
    private final Clock clock;
    private final Traffic traffic;
    private final Duration past;
    private volatile Memory memory;
    private volatile boolean running = true;
    private volatile String trouble = "";

    Hub(Keep keep, Reporter reporter, Clock clock, StandInSettings settings) {
        this.keep = keep;
        this.reporter = reporter;
        this.clock = clock;
        this.traffic = new Traffic(settings.seed());
        this.past = settings.past();
        this.memory = keep.read("hub.json", Memory.class).orElseGet(this::firstStart);
    }

    private Memory firstStart() {
        var start = clock.instant().truncatedTo(ChronoUnit.MINUTES);
        return new Memory(
                start, start.minus(past), start.minus(past), past.isZero() ? List.of() : traffic.past(start, past));
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        Thread.ofPlatform().name("hub").daemon().start(this::carryOn);
    }

    @PreDestroy
    void stop() {
        running = false;
    }

    private void carryOn() {
        while (running) {
            try {
                boolean caughtUp = step(clock.instant());
                trouble = "";
                if (caughtUp) Thread.sleep(500);
            } catch (Reporter.NotTaken notTaken) {
                trouble = String.valueOf(notTaken.getMessage());
                pause();
            } catch (InterruptedException stop) {
                return;
            }
        }
    }

    /** Reports the next stretch of time. Tells whether it has come up to now. */
    private boolean step(Instant now) throws Reporter.NotTaken, InterruptedException {
        var before = memory;
        boolean live = before.reportedTo().plus(LIVE).isAfter(now);
        var to =
                live ? now : before.reportedTo().truncatedTo(ChronoUnit.MINUTES).plus(LARGE_STEP.multipliedBy(24));
        if (to.isAfter(now)) to = now;
        var failed = new ArrayList<Traffic.Failed>();
        for (var carrier : Carrier.ALL) failed.addAll(failed(carrier, before.reportedTo(), to, before.episodes()));
        var counted = new ArrayList<Reporter.Carried>();
        var countedTo = to.truncatedTo(ChronoUnit.MINUTES);
        var stretch = live ? Duration.ofMinutes(1) : LARGE_STEP;
        for (var from = before.countedTo(); from.isBefore(countedTo); from = from.plus(stretch)) {
            var end = from.plus(stretch).isBefore(countedTo) ? from.plus(stretch) : countedTo;
            for (var carrier : Carrier.ALL)
                counted.add(new Reporter.Carried(carrier, from, end, delivered(carrier, from, end, before.episodes())));
        }
        reporter.report(failed, counted);
        synchronized (this) {
            memory = new Memory(memory.start(), to, countedTo, memory.episodes());
            if (!live || counted.size() > 0 || failed.size() > 0) keep.write("hub.json", memory);
        }
        return live;
    }

    private List<Traffic.Failed> failed(Carrier carrier, Instant from, Instant to, List<Episode> episodes) {
        var failed = new ArrayList<Traffic.Failed>();
        for (var minute = from.truncatedTo(ChronoUnit.MINUTES);
                minute.isBefore(to);
                minute = minute.plus(1, ChronoUnit.MINUTES)) {
            failed.addAll(traffic.carry(carrier, minute, from, to, episodes).failed());
        }
        return failed;
    }

    private int delivered(Carrier carrier, Instant from, Instant to, List<Episode> episodes) {
        int delivered = 0;
        for (var minute = from; minute.isBefore(to); minute = minute.plus(1, ChronoUnit.MINUTES)) {
            delivered += traffic.carry(carrier, minute, minute, minute.plus(1, ChronoUnit.MINUTES), episodes)
                    .delivered();
        }
        return delivered;
    }

    synchronized void breakIt(String key, Fault fault) {
        var carrier = Carrier.of(key);
        mend(key);
        var episodes = new ArrayList<>(memory.episodes());
        episodes.add(new Episode(carrier.key(), fault, clock.instant(), null, 1));
        remember(episodes);
    }

    synchronized void mend(String key) {
        var now = clock.instant();
        remember(memory.episodes().stream()
                .map(one -> one.carrier().equals(key) && one.to() == null
                        ? new Episode(key, one.fault(), one.from(), now, one.share())
                        : one)
                .toList());
    }

    private void remember(List<Episode> episodes) {
        memory = new Memory(memory.start(), memory.reportedTo(), memory.countedTo(), List.copyOf(episodes));
        keep.write("hub.json", memory);
    }

    /** Has an interface carry some messages right now, beside its ordinary traffic. */
    void carryNow(String key, int count) throws Reporter.NotTaken, InterruptedException {
        var carrier = Carrier.of(key);
        var now = clock.instant();
        var fault = broken(key);
        var random = new SplittableRandom(now.toEpochMilli());
        if (fault.isEmpty()) {
            reporter.report(List.of(), List.of(new Reporter.Carried(carrier, now.minusSeconds(1), now, count)));
            return;
        }
        var failed = new ArrayList<Traffic.Failed>();
        for (int i = 0; i < count; i++) {
            failed.add(Traffic.fail(
                    "b:" + key + ":" + now.toEpochMilli() + ":" + i, carrier, now, fault.get(), random.split()));
        }
        reporter.report(failed, List.of());
    }

    private Optional<Fault> broken(String key) {
        return memory.episodes().stream()
                .filter(one -> one.carrier().equals(key) && one.to() == null)
                .map(Episode::fault)
                .findFirst();
    }

    List<Shown> shown() {
        var now = clock.instant().atZone(Traffic.ZONE);
        return Carrier.ALL.stream()
                .map(one -> new Shown(
                        one.key(),
                        one.name(),
                        "%.1f".formatted(one.rate(now)),
                        broken(one.key()).map(Fault::words).orElse(null)))
                .toList();
    }

    /** Where the hub stands, for whoever waits for the past to be there. */
    Map<String, Object> status() {
        var status = new TreeMap<String, Object>();
        status.put("reportedTo", memory.reportedTo().toString());
        status.put("caughtUp", memory.reportedTo().plus(LIVE).isAfter(clock.instant()));
        status.put("trouble", trouble);
        return status;
    }

    private static void pause() {
        try {
            Thread.sleep(1000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }
}
