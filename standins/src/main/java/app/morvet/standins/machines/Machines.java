package app.morvet.standins.machines;

import app.morvet.standins.Keep;
import app.morvet.standins.StandInSettings;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * The machines of the simulated estate. At the first start their collectors tell Morvet the past, as a collector would that
 * had been cut off; from then on they wait until their pages are fetched.
 */
@Component
class Machines {
    static final Duration TICK = Duration.ofMinutes(2);
    private static final int TICKS_A_POST = 360;

    /** Before that the collectors looked half as often. */
    private static final Duration LOOKED_AT_OFTEN = Duration.ofDays(2);

    /**
     * @param tickedTo  up to where the counters have counted
     * @param toldTo    up to where the past is told
     * @param illnesses all trouble, of the past and of the panel
     */
    record Memory(
            Instant tickedTo,
            Instant toldTo,
            List<Illness> illnesses,
            Map<String, Double> counters,
            Map<String, double[]> buckets) {}

    /** A stretch of the past that Morvet has not taken yet: the pages of the collectors, up to an instant. */
    private record Offered(Map<String, StringBuilder> pages, Instant to) {}

    /** One machine as the panel shows it. */
    record Shown(String key, String kind, String state, boolean ill, List<Ailment> ailments) {}

    private final Keep keep;
    private final Clock clock;
    private final StandInSettings settings;
    private final Physique physique;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(Duration.ofSeconds(3))
            .version(HttpClient.Version.HTTP_1_1)
            .build();
    private final Instant start;
    private Instant tickedTo;
    private volatile Instant toldTo;
    private volatile List<Illness> illnesses;
    private @Nullable Offered offered;
    private Pages.Totals totals;
    private volatile boolean running = true;

    Machines(Keep keep, Clock clock, StandInSettings settings) {
        this.keep = keep;
        this.clock = clock;
        this.settings = settings;
        this.physique = new Physique(settings.seed());
        var now = tick(clock.instant());
        var known = keep.read("machines.json", Memory.class);
        this.start = now;
        var from = now.minus(settings.past());
        this.tickedTo = known.map(Memory::tickedTo).orElse(from);
        this.toldTo = known.map(Memory::toldTo).orElse(from);
        this.illnesses =
                known.map(Memory::illnesses).orElseGet(() -> settings.past().isZero() ? List.of() : past(now));
        this.totals = known.map(it -> new Pages.Totals(new HashMap<>(it.counters()), new HashMap<>(it.buckets())))
                .orElseGet(Pages.Totals::none);
    }

    private static Instant tick(Instant at) {
        long seconds = TICK.toSeconds();
        return Instant.ofEpochSecond(Math.floorDiv(at.getEpochSecond(), seconds) * seconds);
    }

    /** Some true trouble in the past, made the same way each time. */
    private List<Illness> past(Instant now) {
        var random = new SplittableRandom(settings.seed());
        var made = new ArrayList<Illness>();
        long minutes = settings.past().toMinutes();
        int count = (int) Math.max(4, minutes / 1440 * 2);
        var others = Machine.ALL.stream().filter(one -> !one.isService()).toList();
        for (int i = 0; i < count; i++) {
            var machine = others.get(random.nextInt(others.size()));
            var fitting = java.util.Arrays.stream(Ailment.values())
                    .filter(it -> it.befalls(machine))
                    .toList();
            var ailment = fitting.get(random.nextInt(fitting.size()));
            long longest = ailment == Ailment.DISK_FILLS || ailment == Ailment.HOARDED ? 1100 : 170;
            var from = now.minus(Duration.ofMinutes(random.nextLong(300, Math.max(301, minutes - 60))));
            made.add(new Illness(
                    machine.key(), ailment, from, from.plus(Duration.ofMinutes(random.nextLong(35, longest)))));
        }
        // Something is going on when the shift begins: a disk that fills, and will be full tomorrow.
        made.removeIf(one -> one.machine().equals("quay-03") && one.ailment() == Ailment.DISK_FILLS);
        made.add(new Illness("quay-03", Ailment.DISK_FILLS, now.minus(Duration.ofHours(9)), null));
        // And some days ago answers were slow for an afternoon, which a usual range shows best.
        made.add(new Illness(
                "gangway-2", Ailment.SLOW, now.minus(Duration.ofHours(57)), now.minus(Duration.ofHours(54))));
        made.add(new Illness(
                "manifold-1", Ailment.SLOW, now.minus(Duration.ofHours(101)), now.minus(Duration.ofHours(99))));
        made.add(new Illness(
                "gangway-3",
                Ailment.WORKERS_TIED_UP,
                now.minus(Duration.ofHours(31)),
                now.minus(Duration.ofHours(30))));
        // What is worked on right now was meant to be.
        made.removeIf(one -> one.machine().equals("sextant-1"));
        made.add(new Illness("sextant-1", Ailment.WORKERS_TIED_UP, now.minus(Duration.ofMinutes(25)), null));
        services(made, now, minutes);
        made.sort(Comparator.comparing(Illness::from));
        return List.copyOf(made);
    }

    /** Services stop now and then; one has come and gone since the small hours. */
    private void services(List<Illness> made, Instant now, long minutes) {
        var random = new SplittableRandom(settings.seed() + 1);
        var all = Machine.ALL.stream().filter(Machine::isService).toList();
        for (int i = 0; i < minutes / 1440; i++) {
            var from = now.minus(Duration.ofMinutes(random.nextLong(200, Math.max(201, minutes - 60))));
            var ailment = random.nextInt(4) == 0 ? Ailment.NOT_UP : Ailment.STOPPED;
            made.add(new Illness(
                    all.get(random.nextInt(all.size())).key(),
                    ailment,
                    from,
                    from.plus(Duration.ofMinutes(random.nextLong(4, 75)))));
        }
        made.removeIf(one -> one.machine().equals("stores-meter"));
        made.add(new Illness("stores-meter", Ailment.COMES_AND_GOES, now.minus(Duration.ofMinutes(190)), null));
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        Thread.ofPlatform().name("machines").daemon().start(this::carryOn);
    }

    @PreDestroy
    void stop() {
        running = false;
    }

    private void carryOn() {
        while (running) {
            try {
                if (toldTo.isBefore(start)) tellPast();
                else advance(clock.instant());
                Thread.sleep(toldTo.isBefore(start) ? 0 : 1000);
            } catch (IOException notTaken) {
                pause();
            } catch (InterruptedException stop) {
                return;
            }
        }
    }

    /** Tells the next stretch of the past. What Morvet does not take is offered again. */
    private synchronized void tellPast() throws IOException, InterruptedException {
        if (offered == null) offered = nextOfPast();
        post(offered.pages());
        toldTo = offered.to();
        offered = null;
        if (!toldTo.isBefore(start)) remember();
    }

    private Offered nextOfPast() {
        var pages = new HashMap<String, StringBuilder>();
        Machine.COLLECTORS.forEach(one -> pages.put(one, new StringBuilder(Pages.heads())));
        var at = toldTo;
        for (int i = 0; i < TICKS_A_POST && at.isBefore(start); i++) {
            at = at.plus(TICK);
            advance(at);
            if (at.isBefore(start.minus(LOOKED_AT_OFTEN)) && at.getEpochSecond() / TICK.toSeconds() % 2 != 0) continue;
            for (var one : Machine.COLLECTORS) Pages.lines(pages.get(one), one, at, physique, illnesses, totals, true);
        }
        return new Offered(pages, at);
    }

    /** All at once, as collectors do that know nothing of each other. */
    private void post(Map<String, StringBuilder> pages) throws IOException, InterruptedException {
        var answers = new ArrayList<CompletableFuture<HttpResponse<Void>>>();
        pages.forEach((collector, page) -> answers.add(client.sendAsync(
                HttpRequest.newBuilder(URI.create(settings.morvet() + "/api/v1/readings"))
                        .timeout(Duration.ofSeconds(60))
                        .header("Authorization", "Bearer " + settings.key() + "." + collector)
                        .header("Content-Type", Pages.TYPE)
                        .POST(HttpRequest.BodyPublishers.ofString(page.toString()))
                        .build(),
                HttpResponse.BodyHandlers.discarding())));
        try {
            for (var answer : answers)
                if (answer.get().statusCode() != 202)
                    throw new IOException("Morvet answered " + answer.get().statusCode());
        } catch (ExecutionException notReached) {
            throw new IOException(notReached.getCause());
        }
    }

    /** Lets the counters count on, tick by tick. */
    private synchronized void advance(Instant now) {
        boolean moved = false;
        for (var at = tickedTo.plus(TICK); !at.isAfter(now); at = at.plus(TICK)) {
            var felt = Illness.feltAt(at, illnesses);
            for (var machine : Machine.ALL) {
                if (!machine.kind().equals("instance")) continue;
                double minutes = TICK.toSeconds() / 60.0;
                // Instances are started anew at night now and then, and their counters with them.
                boolean restart = at.getEpochSecond() % 86_400 < TICK.toSeconds()
                        && (at.getEpochSecond() / 86_400 + machine.key().hashCode()) % 5 == 0;
                if (restart) {
                    totals.counters().put(machine.key() + " requests", 0.0);
                    totals.counters().put(machine.key() + " errors", 0.0);
                    totals.buckets().remove(machine.key());
                }
                totals.counters()
                        .merge(
                                machine.key() + " requests",
                                minutes * physique.requests(machine, at, felt),
                                Double::sum);
                totals.counters()
                        .merge(machine.key() + " errors", minutes * physique.errors(machine, at, felt), Double::sum);
                totals.buckets().merge(machine.key(), physique.buckets(machine, at, felt), Machines::added);
            }
            tickedTo = at;
            moved = true;
        }
        if (moved && !toldTo.isBefore(start)) remember();
    }

    private static double[] added(double[] one, double[] other) {
        var sum = one.clone();
        for (int i = 0; i < sum.length; i++) sum[i] += other[i];
        return sum;
    }

    private void remember() {
        keep.write("machines.json", new Memory(tickedTo, toldTo, illnesses, totals.counters(), totals.buckets()));
    }

    /** The page of a collector, as it is now. */
    synchronized String page(String collector) {
        if (!Machine.COLLECTORS.contains(collector))
            throw new IllegalArgumentException("There is no collector " + collector + ".");
        var now = clock.instant();
        if (!toldTo.isBefore(start)) advance(now);
        var page = new StringBuilder(Pages.heads());
        Pages.lines(page, collector, now, physique, illnesses, totals, false);
        return page.toString();
    }

    synchronized void ail(String key, Ailment ailment) {
        var machine = Machine.of(key);
        if (!ailment.befalls(machine)) throw new IllegalArgumentException(key + " cannot have that.");
        heal(key);
        var all = new ArrayList<>(illnesses);
        all.add(new Illness(key, ailment, clock.instant(), null));
        illnesses = List.copyOf(all);
        remember();
    }

    synchronized void heal(String key) {
        var now = clock.instant();
        illnesses = illnesses.stream()
                .map(one -> one.machine().equals(key) && one.to() == null
                        ? new Illness(key, one.ailment(), one.from(), now)
                        : one)
                .toList();
        remember();
    }

    List<Shown> shown() {
        var now = clock.instant();
        return Machine.ALL.stream()
                .map(machine -> {
                    var ill = illnesses.stream()
                            .filter(one -> one.machine().equals(machine.key()) && one.to() == null)
                            .findFirst();
                    var fitting = java.util.Arrays.stream(Ailment.values())
                            .filter(it -> it.befalls(machine))
                            .toList();
                    return new Shown(
                            machine.key(),
                            machine.kind(),
                            ill.map(one -> one.ailment().words() + ", for " + Math.round(one.hours(now) * 10) / 10.0
                                            + " h")
                                    .orElse("well"),
                            ill.isPresent(),
                            fitting);
                })
                .toList();
    }

    boolean caughtUp() {
        return !toldTo.isBefore(start);
    }

    Map<String, Object> status() {
        return Map.of("toldTo", toldTo.toString(), "caughtUp", caughtUp());
    }

    private static void pause() {
        try {
            Thread.sleep(1000);
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
    }
}
