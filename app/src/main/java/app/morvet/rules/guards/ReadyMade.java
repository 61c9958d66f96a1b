package app.morvet.rules.guards;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.Damping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Guards that are ready-made for each kind of component, offered where something fits and no like guard stands yet. */
@Component
class ReadyMade {
    /** @param key under which it is switched on */
    record Offer(String key, String name, Watch watch, Guard rule, String note) {}

    private static final String LOOK =
            "1. Look at the curve: since when, and what changed just before.\n2. If it does not come back by itself, hand the case off to the owning team.\n";

    private final Guards guards;
    private final GuardStore store;
    private final Matching matching;
    private final List<Offer> all;

    ReadyMade(Guards guards, GuardStore store, Matching matching, Times times) {
        this.guards = guards;
        this.store = store;
        this.matching = matching;
        this.all = offers(times.zone());
    }

    /** @param subjects how many series it would stand over */
    record Fitting(Offer offer, int subjects, String sentence) {}

    List<Fitting> fitting() {
        var standing = standing();
        return all.stream()
                .filter(offer -> standing.stream().noneMatch(guard -> like(guard, offer)))
                .map(offer -> new Fitting(
                        offer, matching.of(offer.watch()).size(), guards.sentence(offer.rule(), offer.watch())))
                .filter(fitting -> fitting.subjects() > 0)
                .toList();
    }

    /** How many of them fit, without saying over how much. */
    long count() {
        var standing = standing();
        return all.stream()
                .filter(offer -> matching.fitsAny(offer.watch()))
                .filter(offer -> standing.stream().noneMatch(guard -> like(guard, offer)))
                .count();
    }

    private List<GuardStore.Brief> standing() {
        return store.briefs(
                all.stream().map(Offer::name).toList(),
                all.stream().map(offer -> offer.watch().measure()).distinct().toList());
    }

    Optional<Offer> byKey(String key) {
        return all.stream().filter(offer -> offer.key().equals(key)).findFirst();
    }

    private static boolean like(GuardStore.Brief guard, Offer offer) {
        return guard.name().equals(offer.name())
                || guard.active()
                        && guard.measure().equals(offer.watch().measure())
                        && guard.kind().equals(offer.rule().kind());
    }

    static List<Offer> offers(ZoneId zone) {
        var calm = Terms.clearing(Clearing.USUAL_MARGIN, Duration.ofMinutes(10));
        var damped = calm.withDamping(new Damping(4, Duration.ofHours(2)));
        var quarter = new Window.Sliding(Duration.ofMinutes(15));
        return List.of(
                new Offer(
                        "host-processor",
                        "Processor busy for long",
                        Watch.of("processor_busy").ofKind("host"),
                        new LimitGuard(
                                new Window.Sliding(Duration.ofMinutes(20)),
                                // Not from the first reading of a host that has just begun to tell them.
                                Amount.of(Amount.Fold.MEAN).least(4),
                                Limits.above(85, 95),
                                damped),
                        LOOK),
                new Offer(
                        "host-memory",
                        "Memory nearly full",
                        Watch.of("memory_used").ofKind("host"),
                        new LimitGuard(quarter, Amount.of(Amount.Fold.MIN), Limits.above(90, 96), calm),
                        LOOK),
                new Offer(
                        "host-disk",
                        "Disk filling up",
                        Watch.of("disk_used").ofKind("host"),
                        new TrendGuard(
                                95,
                                Side.ABOVE,
                                Duration.ofDays(3),
                                true,
                                zone,
                                Limits.below(48, 8),
                                Terms.clearing(0.8, Duration.ofHours(1))),
                        LOOK),
                new Offer(
                        "host-silence",
                        "Host not heard",
                        Watch.of("processor_busy").ofKind("host"),
                        new SilenceGuard(Limits.above(3, 10), Terms.clearing(1, Duration.ZERO)),
                        LOOK),
                new Offer(
                        "instance-latency",
                        "Answers unusually slow",
                        Watch.of("response_time_p95").ofKind("instance"),
                        new BandGuard(Duration.ofMinutes(30), 0.8, Side.ABOVE, 4, zone, Limits.above(5, 12), calm),
                        LOOK),
                new Offer(
                        "instance-errors",
                        "Errors a minute",
                        Watch.of("errors").ofKind("instance"),
                        new LimitGuard(quarter, Amount.of(Amount.Fold.RATE), Limits.above(5, 20), calm),
                        LOOK),
                new Offer(
                        "instance-workers",
                        "Few free workers",
                        Watch.of("free_workers").ofKind("instance"),
                        new LimitGuard(quarter, Amount.each(0.8), Limits.below(4, 1), calm),
                        LOOK),
                new Offer(
                        "instance-pending",
                        "Pending tasks pile up",
                        Watch.of("pending_tasks").ofKind("instance"),
                        new LimitGuard(quarter, Amount.of(Amount.Fold.MIN), Limits.above(200, 500), calm),
                        LOOK),
                new Offer(
                        "instance-sessions",
                        "Sessions unusual for the hour",
                        Watch.of("sessions").ofKind("instance"),
                        new BandGuard(Duration.ofMinutes(30), 0.8, Side.OUTSIDE, 4, zone, Limits.above(6, 15), calm),
                        LOOK),
                new Offer(
                        "service-state",
                        "Service does not run",
                        Watch.of("service").ofKind("service"),
                        new StateGuard(
                                StateGuard.Condition.in(Duration.ofMinutes(10), "starting"),
                                StateGuard.Condition.in(Duration.ofMinutes(3), "stopped"),
                                Terms.clearing(1, Duration.ofMinutes(2))
                                        .withDamping(new Damping(3, Duration.ofHours(2)))),
                        LOOK),
                new Offer(
                        "service-silence",
                        "Service not heard",
                        Watch.of("service").ofKind("service"),
                        new SilenceGuard(Limits.above(3, 10), Terms.clearing(1, Duration.ZERO)),
                        LOOK),
                new Offer(
                        "alive",
                        "Sign of life missing",
                        Watch.of("alive"),
                        new SilenceGuard(Limits.above(0, 2), Terms.clearing(1, Duration.ZERO)),
                        LOOK),
                new Offer(
                        "checks",
                        "Check does not pass",
                        Watch.of("check"),
                        new StateGuard(
                                StateGuard.Condition.in(Duration.ofMinutes(1), "changed"),
                                StateGuard.Condition.in(Duration.ofMinutes(3), "failed", "no answer"),
                                Terms.clearing(1, Duration.ofMinutes(3))
                                        .withDamping(new Damping(3, Duration.ofHours(2)))),
                        LOOK),
                new Offer(
                        "certificates",
                        "Certificate runs out",
                        Watch.of("certificate_days_left"),
                        new LimitGuard(
                                new Window.Sliding(Duration.ofHours(6)),
                                Amount.of(Amount.Fold.MIN),
                                Limits.below(21, 7),
                                Terms.clearing(1, Duration.ofHours(1))),
                        LOOK),
                new Offer(
                        "outposts",
                        "Outpost not heard",
                        Watch.of("outpost_waiting"),
                        new SilenceGuard(Limits.above(3, 12), Terms.clearing(1, Duration.ZERO)),
                        "1. Is its host up, and does it reach Morvet?\n2. What it sees meanwhile it keeps, and tells when it is back.\n"),
                new Offer(
                        "outpost-clocks",
                        "Clock of an outpost is off",
                        Watch.of("outpost_clock_off"),
                        new LimitGuard(quarter, Amount.of(Amount.Fold.MIN), Limits.above(5, 60), calm),
                        LOOK),
                new Offer(
                        "own-rounds",
                        "Morvet is behind",
                        Watch.of("morvet_rounds_behind"),
                        new LimitGuard(
                                new Window.Sliding(Duration.ofMinutes(5)),
                                Amount.of(Amount.Fold.MIN),
                                Limits.above(30, 120),
                                Terms.clearing(1, Duration.ofMinutes(5))),
                        LOOK),
                new Offer(
                        "own-errands",
                        "Morvet's errands pile up",
                        Watch.of("morvet_errands_waiting"),
                        new LimitGuard(quarter, Amount.of(Amount.Fold.MIN), Limits.above(50, 500), calm),
                        LOOK),
                new Offer(
                        "own-deliveries",
                        "Deliveries are given up",
                        Watch.of("morvet_deliveries_given_up"),
                        new LimitGuard(
                                quarter,
                                Amount.of(Amount.Fold.LAST),
                                Limits.above(0, 5),
                                Terms.clearing(1, Duration.ofMinutes(5))),
                        LOOK),
                new Offer(
                        "own-feeds",
                        "Feeds are silent",
                        Watch.of("morvet_feeds_silent"),
                        new LimitGuard(
                                quarter,
                                Amount.of(Amount.Fold.MIN),
                                Limits.above(0, 3),
                                Terms.clearing(1, Duration.ofMinutes(5))),
                        LOOK),
                new Offer(
                        "versions",
                        "Version differs from its like",
                        Watch.of("version"),
                        new StateGuard(
                                StateGuard.Condition.in(Duration.ofHours(1), "different"),
                                null,
                                Terms.clearing(1, Duration.ZERO)),
                        LOOK),
                new Offer(
                        "vendors",
                        "Vendor does not serve",
                        Watch.of("vendor").ofKind("vendor instance"),
                        new StateGuard(
                                StateGuard.Condition.in(Duration.ofMinutes(5), "serves in part"),
                                StateGuard.Condition.in(Duration.ZERO, "does not serve"),
                                Terms.clearing(1, Duration.ofMinutes(2))),
                        "See what the vendor writes, and what we see beside it; who needs it is on its page."),
                new Offer(
                        "vendor-feeds",
                        "Vendor's feed is not read",
                        Watch.of("vendor_feed").ofKind("vendor instance"),
                        new StateGuard(
                                StateGuard.Condition.in(Duration.ofMinutes(15), "in doubt", "not read"),
                                null,
                                Terms.clearing(1, Duration.ZERO)),
                        "Open the instance: it says what could not be read. What is not read is not known, however quiet it is."),
                new Offer(
                        "unplanned-changes",
                        "Changed outside a window",
                        Watch.of("changes_outside_windows"),
                        new LimitGuard(
                                new Window.Sliding(Duration.ofHours(1)),
                                Amount.of(Amount.Fold.SUM),
                                new Limits(Limit.above(0), null),
                                Terms.clearing(1, Duration.ZERO)),
                        "See what was changed, and ask who did it whether it was meant to be; planned work has a window."),
                new Offer(
                        "queue-depth",
                        "Queue does not drain",
                        Watch.of("queue_depth"),
                        new LimitGuard(quarter, Amount.of(Amount.Fold.MIN), Limits.above(500, 2000), calm),
                        LOOK),
                new Offer(
                        "licences",
                        "Licences running out",
                        Watch.of("licences_used"),
                        new LimitGuard(
                                new Window.Sliding(Duration.ofMinutes(30)),
                                Amount.of(Amount.Fold.MAX).shareOf(new Amount.Ceiling.Measured("licences_owned")),
                                Limits.above(90, 98),
                                calm),
                        LOOK),
                new Offer(
                        "interface-failures",
                        "Failing in a burst",
                        Watch.of("failed_messages").ofKind("interface"),
                        new LimitGuard(
                                quarter,
                                Amount.of(Amount.Fold.SUM),
                                Limits.above(20, 60),
                                Terms.clearing(0.5, Duration.ofMinutes(5))),
                        LOOK));
    }
}
