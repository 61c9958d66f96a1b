package app.morvet.demo;

import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.Derived;
import app.morvet.ground.base.PastRound;
import app.morvet.sources.readings.Sealing;
import app.morvet.work.callouts.Delivery;
import app.morvet.work.callouts.PastCallOuts;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseTurned;
import app.morvet.work.cases.WorkCase;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.Objects;
import java.util.PriorityQueue;
import java.util.SplittableRandom;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.context.annotation.Profile;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The first start of the demo: waits until the hub has reported its past, then goes through it with the guards as they
 * run live, and has the demo's people take and settle what came of it. From then on all is live.
 */
@Component("demoPast")
@Profile("demo")
class DemoPast implements ApplicationRunner, HealthIndicator {
    private static final Logger log = LoggerFactory.getLogger(DemoPast.class);
    private static final Duration STEP = Duration.ofMinutes(5);
    private static final Duration RUNS_EVERY = Duration.ofMinutes(30);
    private static final List<SettleReason> REASONS = List.of(
            SettleReason.MENDED,
            SettleReason.MENDED,
            SettleReason.MENDED,
            SettleReason.PASSED,
            SettleReason.PASSED,
            SettleReason.FALSE_CALL,
            SettleReason.PLANNED);

    private static final Duration LEFT_ALONE = Duration.ofMinutes(100);

    /** A short past, as of a test, has no handoffs. */
    private static final Duration HANDED_OFF_UNTIL = Duration.ofHours(26);

    private static final Duration LATE = Duration.ofHours(80);
    private static final int HANDED_OFF_EACH = 4;
    private static final List<DemoHandoffs.Outcome> OUTCOMES = List.of(
            DemoHandoffs.Outcome.DONE,
            DemoHandoffs.Outcome.RETURNED,
            DemoHandoffs.Outcome.DONE,
            DemoHandoffs.Outcome.GIVEN_UP);

    /** Something that a person will do. */
    private record Intent(Instant at, long caseId, boolean settles) {}

    private final DemoEstate estate;
    private final DemoStore store;
    private final DemoChecks checks;
    private final DemoVendors vendors;
    private final List<PastRound> rounds;
    private final Sealing sealing;
    private final List<Derived> derived;
    private final CaseBook cases;
    private final DemoHandoffs handoffs;
    private final PastCallOuts callOuts;
    private final DemoShifts shifts;
    private final People people;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final DemoSettings demo;
    private final SplittableRandom random = new SplittableRandom(7);
    private final PriorityQueue<Intent> intents = new PriorityQueue<>(Comparator.comparing(Intent::at));
    private volatile boolean ready;
    private volatile boolean somethingTurned;
    private long lastSeenCase;
    private int taken;
    private int handed;
    private final Deque<DemoHandoffs.Outcome> with = new ArrayDeque<>(
            List.of(DemoHandoffs.Outcome.ACCEPTED, DemoHandoffs.Outcome.RETURNED, DemoHandoffs.Outcome.SENT));

    DemoPast(
            DemoEstate estate,
            DemoStore store,
            DemoChecks checks,
            DemoVendors vendors,
            List<PastRound> rounds,
            Sealing sealing,
            List<Derived> derived,
            CaseBook cases,
            DemoHandoffs handoffs,
            PastCallOuts callOuts,
            DemoShifts shifts,
            People people,
            TransactionTemplate transaction,
            Clock clock,
            DemoSettings demo) {
        this.estate = estate;
        this.store = store;
        this.checks = checks;
        this.vendors = vendors;
        this.rounds = rounds;
        this.sealing = sealing;
        this.derived = derived;
        this.cases = cases;
        this.handoffs = handoffs;
        this.callOuts = callOuts;
        this.shifts = shifts;
        this.people = people;
        this.transaction = transaction;
        this.clock = clock;
        this.demo = demo;
    }

    @Override
    public void run(ApplicationArguments arguments) {
        if (store.pastIsMade()) {
            store.standInsAnswerAt(demo.desk());
            ready = true;
            return;
        }
        rounds.forEach(PastRound::stop);
        derived.forEach(Derived::rest);
        estate.setUp();
        // Before the feeds are looked at for the first time, since states know no way back.
        vendors.past();
        Thread.ofPlatform().name("demo-past").daemon().start(this::waitAndMake);
    }

    @Override
    public Health health() {
        return ready
                ? Health.up().build()
                : Health.outOfService().withDetail("past", "is being made").build();
    }

    private void waitAndMake() {
        try {
            while (!reaches(store.reportedTo())
                    || !reaches(store.lastRun().plus(RUNS_EVERY))
                    || !reaches(store.readTo(clock.instant().minus(Duration.ofHours(1))))) Thread.sleep(300);
            boolean hasComeIn = attempt(() -> {
                var first = store.firstFailure();
                checks.add(Duration.between(first, clock.instant()));
                estate.seenSince(first);
                sealing.sealUpTo(clock.instant().minus(Duration.ofHours(30)));
            });
            // It is reckoned from what has come in, be it all or a part, and of that nothing is changed any more.
            var reckoning = Thread.ofPlatform().name("demo-reckoning").daemon().start(this::reckon);
            if (hasComeIn) attempt(this::makeAndTell);
            reckoning.join();
        } catch (InterruptedException stop) {
            return;
        }
        rounds.forEach(PastRound::start);
        ready = true;
    }

    private void makeAndTell() throws InterruptedException {
        var taken = Objects.requireNonNull(transaction.execute(status -> make()));
        handoffs.tellDesk();
        callOuts.send(taken);
    }

    private interface Part {
        void run() throws InterruptedException;
    }

    /** A past that is there in part is better than none. */
    private static boolean attempt(Part part) throws InterruptedException {
        try {
            part.run();
            return true;
        } catch (RuntimeException failed) {
            log.error("the past of the demo could not be made", failed);
            return false;
        }
    }

    /** One that fails leaves the others their turn. */
    private void reckon() {
        derived.parallelStream().forEach(one -> {
            try {
                one.reckon();
            } catch (RuntimeException failed) {
                log.error("what the past says could not be reckoned", failed);
            }
        });
    }

    private boolean reaches(Instant upTo) {
        return upTo.isAfter(clock.instant().minus(Duration.ofMinutes(5)));
    }

    /** Gives back the mails of the past. */
    private List<Delivery> make() {
        var now = clock.instant();
        var from = store.firstFailure().minusSeconds(60);
        var to = now.minus(Duration.ofSeconds(30));
        var going = rounds.stream()
                .map(round -> new Going(round.walk(from, to), round.step()))
                .toList();
        for (var at = from; !at.isAfter(to); at = at.plus(STEP)) {
            for (var one : going) one.goTo(at);
            callOuts.goTo(at);
            peopleWork(at);
        }
        going.forEach(one -> one.past.end());
        shifts.make(now);
        store.pastIsMade(now);
        log.info("the past of the demo is made");
        return callOuts.take(now);
    }

    /** A past that is gone through in steps of its own length. */
    private static final class Going {
        private final PastRound.Walk past;
        private final Duration step;
        private Instant next = Instant.MIN;

        Going(PastRound.Walk past, Duration step) {
            this.past = past;
            this.step = step;
        }

        void goTo(Instant now) {
            if (now.isBefore(next)) return;
            past.goTo(now);
            next = now.plus(step);
        }
    }

    /** What people would have done by an instant. They leave alone what opened within the last hours. */
    private void peopleWork(Instant now) {
        if (somethingTurned) lookAtCases(now);
        var live = clock.instant().minus(LEFT_ALONE);
        while (!intents.isEmpty() && !intents.peek().at().isAfter(now)) {
            var intent = intents.poll();
            if (intent.at().isBefore(live)) cases.find(intent.caseId()).ifPresent(one -> work(one, intent));
        }
    }

    private void lookAtCases(Instant now) {
        somethingTurned = false;
        for (var fresh : store.casesAfter(lastSeenCase)) {
            lastSeenCase = fresh;
            intents.add(new Intent(now.plus(minutes(3, 25)), fresh, false));
        }
        for (var reopened : store.untakenCases(now.minus(Duration.ofHours(2)))) {
            if (intents.stream().noneMatch(intent -> intent.caseId() == reopened))
                intents.add(new Intent(now, reopened, false));
        }
    }

    /** People look when something has turned up or come back. */
    @EventListener
    void on(CaseTurned turned) {
        somethingTurned = true;
    }

    private void work(WorkCase one, Intent intent) {
        var analysts = people.all().stream()
                .filter(person -> person.role() == Role.ANALYST)
                .toList();
        if (!intent.settles()) {
            if (one.state() != CaseState.NEW) return;
            var by = analysts.get(random.nextInt(analysts.size()));
            cases.take(one.id(), one.version(), by, intent.at());
            boolean open = handOff(one, by, intent.at().plusSeconds(240));
            if (!open) intents.add(new Intent(intent.at().plus(minutes(110, 240)), one.id(), true));
        } else if (!one.settled()) {
            var taker = one.progress().takenBy();
            Person by = analysts.stream()
                    .filter(person -> Long.valueOf(person.id()).equals(taker))
                    .findFirst()
                    .orElse(analysts.getFirst());
            cases.settle(one.id(), one.version(), by, REASONS.get(random.nextInt(REASONS.size())), "", intent.at());
        }
    }

    /** Some go to the team that owns them; of the last days a few are with them still. Tells whether it stays open. */
    private boolean handOff(WorkCase one, Person by, Instant at) {
        var age = Duration.between(at, clock.instant());
        if (age.compareTo(HANDED_OFF_UNTIL) < 0) return false;
        boolean late = age.compareTo(LATE) < 0;
        var outcome =
                late ? with.poll() : ++taken % HANDED_OFF_EACH == 0 ? OUTCOMES.get(handed++ % OUTCOMES.size()) : null;
        if (outcome == null) return false;
        cases.find(one.id()).ifPresent(now -> handoffs.handOff(now, by, at, outcome));
        return late;
    }

    private Duration minutes(int from, int to) {
        return Duration.ofMinutes(random.nextInt(from, to));
    }
}
