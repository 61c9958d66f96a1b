package app.morvet.standins.hub;

import app.morvet.standins.Keep;
import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
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
     * @param halts      when interfaces did not run
     * @param deployed   which version ran from when on
     * @param stateTold  whether Morvet knows how all interfaces stand
     */
    record Memory(
            Instant start,
            Instant reportedTo,
            Instant countedTo,
            List<Episode> episodes,
            List<Halt> halts,
            List<Deployed> deployed,
            boolean stateTold) {
        Memory at(Instant reported, Instant counted) {
            return new Memory(start, reported, counted, episodes, halts, deployed, stateTold);
        }

        Memory with(List<Episode> others) {
            return new Memory(start, reportedTo, countedTo, List.copyOf(others), halts, deployed, stateTold);
        }

        Memory with(List<Halt> others, List<Deployed> versions, boolean told) {
            return new Memory(start, reportedTo, countedTo, episodes, List.copyOf(others), List.copyOf(versions), told);
        }

        boolean halted(Carrier carrier, Instant at) {
            return halts.stream().anyMatch(one -> one.carrier().equals(carrier.key()) && one.covers(at));
        }

        String version(Carrier carrier) {
            return deployed.stream()
                    .filter(one -> one.carrier().equals(carrier.key()))
                    .reduce((one, later) -> later)
                    .map(Deployed::version)
                    .orElse("1.0");
        }
    }

    /** One interface as the panel shows it. */
    record Shown(
            String key,
            String name,
            String rate,
            @Nullable String broken,
            String state,
            String version,
            int failsNext) {}

    private final Keep keep;
    private final Reporter reporter;
    private final Clock clock;
    private final Traffic traffic;
    private final Duration past;
    private final Attempts attempts = new Attempts();
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
                start,
                start.minus(past),
                start.minus(past),
                past.isZero() ? List.of() : traffic.past(start, past),
                past.isZero() ? List.of() : traffic.halts(start),
                traffic.versions(start),
                false);
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
            } catch (ToMorvet.NotTaken notTaken) {
                trouble = String.valueOf(notTaken.getMessage());
                pause();
            } catch (InterruptedException stop) {
                return;
            }
        }
    }

    /** Reports the next stretch of time. Tells whether it has come up to now. */
    private boolean step(Instant now) throws ToMorvet.NotTaken, InterruptedException {
        if (!memory.stateTold()) tellStates();
        var before = memory;
        boolean live = before.reportedTo().plus(LIVE).isAfter(now);
        var to =
                live ? now : before.reportedTo().truncatedTo(ChronoUnit.MINUTES).plus(LARGE_STEP.multipliedBy(24));
        if (to.isAfter(now)) to = now;
        var failed = new ArrayList<Traffic.Failed>();
        for (var carrier : Carrier.ALL) failed.addAll(failed(carrier, before.reportedTo(), to, before));
        var counted = new ArrayList<Reporter.Carried>();
        var countedTo = to.truncatedTo(ChronoUnit.MINUTES);
        var stretch = live ? Duration.ofMinutes(1) : LARGE_STEP;
        for (var from = before.countedTo(); from.isBefore(countedTo); from = from.plus(stretch)) {
            var end = from.plus(stretch).isBefore(countedTo) ? from.plus(stretch) : countedTo;
            for (var carrier : Carrier.ALL) {
                var delays = delivered(carrier, from, end, before);
                counted.add(new Reporter.Carried(carrier, from, end, delays.size(), delays));
            }
        }
        reporter.report(failed, counted);
        synchronized (this) {
            memory = memory.at(to, countedTo);
            if (!live || counted.size() > 0 || failed.size() > 0) keep.write("hub.json", memory);
        }
        return live;
    }

    private List<Traffic.Failed> failed(Carrier carrier, Instant from, Instant to, Memory known) {
        var failed = new ArrayList<Traffic.Failed>();
        for (var minute = from.truncatedTo(ChronoUnit.MINUTES);
                minute.isBefore(to);
                minute = minute.plus(1, ChronoUnit.MINUTES)) {
            if (known.halted(carrier, minute)) continue;
            failed.addAll(
                    traffic.carry(carrier, minute, from, to, known.episodes()).failed());
        }
        return failed;
    }

    private List<Double> delivered(Carrier carrier, Instant from, Instant to, Memory known) {
        var delays = new ArrayList<Double>();
        for (var minute = from; minute.isBefore(to); minute = minute.plus(1, ChronoUnit.MINUTES)) {
            if (known.halted(carrier, minute)) continue;
            delays.addAll(traffic.carry(carrier, minute, minute, minute.plus(1, ChronoUnit.MINUTES), known.episodes())
                    .delays());
        }
        return delays;
    }

    /** How every interface stands, and which versions ran before. */
    private void tellStates() throws ToMorvet.NotTaken, InterruptedException {
        var known = memory;
        var states = new ArrayList<Reporter.Stands>();
        for (var one : known.deployed())
            states.add(new Reporter.Stands(Carrier.of(one.carrier()), one.from(), "running", "", one.version()));
        for (var one : known.halts()) {
            var carrier = Carrier.of(one.carrier());
            states.add(new Reporter.Stands(carrier, one.from(), one.state(), one.reason(), one.version()));
            var to = one.to();
            if (to != null) states.add(new Reporter.Stands(carrier, to, "running", "", known.version(carrier)));
        }
        reporter.report(states);
        synchronized (this) {
            memory = memory.with(memory.halts(), memory.deployed(), true);
            keep.write("hub.json", memory);
        }
    }

    /** Stops an interface, has it fail to deploy, or has it run in a version. */
    void deploy(String key, String state, String version, String reason)
            throws ToMorvet.NotTaken, InterruptedException {
        var carrier = Carrier.of(key);
        var now = clock.instant().truncatedTo(ChronoUnit.MILLIS);
        String told;
        synchronized (this) {
            var halts = new ArrayList<Halt>();
            for (var one : memory.halts())
                halts.add(
                        one.carrier().equals(key) && one.to() == null
                                ? new Halt(key, one.from(), now, one.state(), one.reason(), one.version())
                                : one);
            var deployed = new ArrayList<>(memory.deployed());
            told = version.isBlank() ? memory.version(carrier) : version;
            if (state.equals("running")) {
                if (!told.equals(memory.version(carrier))) deployed.add(new Deployed(key, now, told));
            } else {
                halts.add(new Halt(key, now, null, state, reason, told));
            }
            memory = memory.with(halts, deployed, memory.stateTold());
            keep.write("hub.json", memory);
        }
        reporter.report(List.of(new Reporter.Stands(carrier, now, state, reason, told)));
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
        memory = memory.with(episodes);
        keep.write("hub.json", memory);
    }

    /** Has an interface carry some messages right now, beside its ordinary traffic. */
    void carryNow(String key, int count) throws ToMorvet.NotTaken, InterruptedException {
        var carrier = Carrier.of(key);
        var now = clock.instant();
        var fault = broken(key);
        var random = new SplittableRandom(now.toEpochMilli());
        if (fault.isEmpty()) {
            var delays = java.util.Collections.nCopies(count, carrier.seconds());
            reporter.report(List.of(), List.of(new Reporter.Carried(carrier, now.minusSeconds(1), now, count, delays)));
            return;
        }
        var failed = new ArrayList<Traffic.Failed>();
        for (int i = 0; i < count; i++) {
            failed.add(Traffic.fail(
                    "b:" + key + ":" + now.toEpochMilli() + ":" + i, carrier, now, fault.get(), random.split()));
        }
        reporter.report(failed, List.of());
    }

    /** Six causes, two of them on one interface, and so many failures in all, told as fast as they are taken. */
    void storm(int count) throws ToMorvet.NotTaken, InterruptedException {
        var now = clock.instant();
        var random = new SplittableRandom(now.toEpochMilli());
        var failed = new ArrayList<Traffic.Failed>();
        for (int i = 0; i < count; i++) {
            var cause = STORM.get(i % STORM.size());
            failed.add(Traffic.fail(
                    "s:" + now.toEpochMilli() + ":" + i,
                    Carrier.of(cause.carrier()),
                    now.minusMillis(count - i).minusNanos(1000L * i),
                    cause.fault(),
                    random.split()));
            if (failed.size() == 5000 || i == count - 1) {
                reporter.report(failed, List.of());
                failed.clear();
            }
        }
    }

    private record Cause(String carrier, Fault fault) {}

    private static final List<Cause> STORM = List.of(
            new Cause("manifest-to-harbour-authority", Fault.CONNECTION_REFUSED),
            new Cause("manifest-to-harbour-authority", Fault.HARBOUR_UNKNOWN),
            new Cause("booking-settlement", Fault.CONNECTION_REFUSED),
            new Cause("departures-to-displays", Fault.CERTIFICATE_EXPIRED),
            new Cause("customer-updates", Fault.MALFORMED_PAYLOAD),
            new Cause("crew-hours-to-payroll", Fault.MALFORMED_PAYLOAD));

    /** Sends a message again: it fails while its interface is broken, or when the panel says so. */
    Attempts.Outcome sendAgain(String reference, String key, String idempotencyKey) {
        var known = attempts.known(idempotencyKey);
        if (known.isPresent()) return known.get();
        var carrier = Carrier.of(key);
        var now = clock.instant();
        if (memory.halted(carrier, now))
            return new Attempts.Outcome(reference, "refused", 0, null, carrier.name() + " does not run");
        int attempt = attempts.next(reference);
        var fault = attempts.takeStubborn(key) ? Optional.of(Fault.TIMED_OUT) : broken(key);
        var outcome = new Attempts.Outcome(reference, "delivered", attempt, null, null);
        if (fault.isPresent()) {
            var failed = Traffic.fail(
                    reference + "#" + attempt,
                    carrier,
                    now,
                    fault.get(),
                    new SplittableRandom(reference.hashCode() + attempt));
            outcome = new Attempts.Outcome(
                    reference, "failed", attempt, fault.get().step(), failed.error());
            try {
                reporter.report(List.of(failed), List.of());
            } catch (ToMorvet.NotTaken notTaken) {
                trouble = String.valueOf(notTaken.getMessage());
            } catch (InterruptedException stop) {
                Thread.currentThread().interrupt();
            }
        }
        attempts.remember(idempotencyKey, outcome);
        return outcome;
    }

    void failNext(String key, int count) {
        attempts.failNext(Carrier.of(key).key(), count);
    }

    private Optional<Fault> broken(String key) {
        return memory.episodes().stream()
                .filter(one -> one.carrier().equals(key) && one.to() == null && one.fault() != Fault.SLOW)
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
                        memory.episodes().stream()
                                .filter(it -> it.carrier().equals(one.key()) && it.to() == null)
                                .map(it -> it.fault().words())
                                .findFirst()
                                .orElse(null),
                        memory.halts().stream()
                                .filter(it -> it.carrier().equals(one.key()) && it.to() == null)
                                .map(Halt::state)
                                .findFirst()
                                .orElse("running"),
                        memory.version(one),
                        attempts.failsNext(one.key())))
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
