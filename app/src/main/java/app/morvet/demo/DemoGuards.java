package app.morvet.demo;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Damping;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.NoData;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.rules.guards.Guards;
import java.time.Duration;
import java.util.List;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The guards of Sundrava Ferries, as the lead has set them in the course of time: most of them good, a few in want of tuning. */
@Component
@Profile("demo")
class DemoGuards {
    private static final String HARBOUR_NOTE =
            """
            1. Open one of the failed messages and look at `harbour` in its payload.
            2. If the code is new, Freight Systems must add it to the harbour list: hand the case off.
            3. If it is mistyped in the sailing plan, correct it there and have the manifest sent again.

            The harbour authority accepts manifests until **30 minutes before arrival**.
            """;
    private static final String ANY_NOTE =
            """
            1. Read the error of the latest message: it says at which step the hub stopped.
            2. *Connection refused*, *too late* or *certificate*: the partner's side. Check with them before anything else.
            3. *Payload* or *duplicate key*: the sender's side. Hand the case off to the team that owns the interface.

            Messages stay at the hub and can be sent again once the cause is mended.
            """;
    private static final String DISK_NOTE =
            """
            1. Look at which volume it is and when it will be full.
            2. `/data` of a booking or freight host: ask Platform to move old exports away.
            3. Less than eight hours left: hand the case off at once, and tell them when it will be full.
            """;
    private static final String SLOW_NOTE =
            """
            1. Look at *Few free workers* of the same instance: tied-up workers make it slow.
            2. Otherwise look at the host that it stands on.
            3. Slow for more than half an hour: hand the case off.
            """;

    private static final String SERVICE_NOTE =
            """
            1. Look at what stands on it and what needs it: of tier 1, start it again at once and look for the cause afterwards.
            2. Look at its host: a full disk or full memory stops services.
            3. Stopped again within the hour: leave it stopped and hand the case off with its log.
            """;

    private final Guards guards;
    private final MorvetSettings settings;

    DemoGuards(Guards guards, MorvetSettings settings) {
        this.guards = guards;
        this.settings = settings;
    }

    void add() {
        var sum = Amount.of(Amount.Fold.SUM);
        var zone = settings.zone();
        var failed = Watch.of("failed_messages").ofKind("interface");
        var calm = Terms.clearing(Clearing.USUAL_MARGIN, Duration.ofMinutes(10));
        guards.set(
                "Failed since midnight",
                true,
                failed,
                new LimitGuard(
                        new Window.SinceMidnight(zone),
                        sum,
                        Limits.above(12, 80),
                        Terms.clearing(Clearing.USUAL_MARGIN, Duration.ofMinutes(5))),
                ANY_NOTE);
        guards.set(
                "Failing in a burst",
                true,
                failed,
                new LimitGuard(sliding(15), sum, Limits.above(20, 60), Terms.clearing(0.5, Duration.ofMinutes(5))),
                "");
        guards.set(
                "Manifests not getting through",
                true,
                failed.named("manifest-to-harbour-authority"),
                new LimitGuard(sliding(30), sum, Limits.above(5, 30), Terms.clearing(0.5, Duration.ofMinutes(10))),
                HARBOUR_NOTE);
        guards.set(
                "Processor busy for long",
                true,
                Watch.of("processor_busy").ofKind("host"),
                new LimitGuard(
                        sliding(20),
                        Amount.of(Amount.Fold.MEAN).least(4),
                        Limits.above(85, 95),
                        calm.withDamping(new Damping(4, Duration.ofHours(2)))),
                "");
        guards.set(
                "Memory nearly full",
                true,
                Watch.of("memory_used").ofKind("host"),
                new LimitGuard(sliding(15), Amount.of(Amount.Fold.MIN), Limits.above(88, 95), calm),
                "");
        guards.set(
                "Disk filling up",
                true,
                Watch.of("disk_used").ofKind("host"),
                new TrendGuard(
                        95,
                        Side.ABOVE,
                        Duration.ofHours(12),
                        false,
                        zone,
                        Limits.below(36, 8),
                        Terms.clearing(0.8, Duration.ofHours(1))),
                DISK_NOTE);
        guards.set(
                "Machines not heard",
                true,
                new Watch("processor_busy", Scope.ALL.ofKind("host").named("quay-*"), "", ""),
                new SilenceGuard(Limits.above(3, 10), Terms.clearing(1, Duration.ZERO)),
                "");
        long slow = guards.set(
                "Answers unusually slow",
                true,
                Watch.of("response_time_p95").ofKind("instance"),
                new BandGuard(Duration.ofMinutes(30), 0.8, Side.ABOVE, 4, zone, Limits.above(6, 15), calm),
                SLOW_NOTE);
        guards.set(
                "Errors a minute",
                true,
                Watch.of("errors").ofKind("instance"),
                new LimitGuard(
                        sliding(15),
                        Amount.of(Amount.Fold.RATE),
                        Limits.above(4, 18),
                        calm.withNoData(new NoData(Duration.ofMinutes(20), NoData.Meaning.NOTICE))),
                "");
        long workers = guards.set(
                "Few free workers",
                true,
                Watch.of("free_workers").ofKind("instance"),
                new LimitGuard(sliding(15), Amount.each(0.8), Limits.below(4, 1), calm),
                "");
        guards.set(
                "Queue does not drain",
                true,
                Watch.of("queue_depth").ofKind("queue"),
                new LimitGuard(sliding(15), Amount.of(Amount.Fold.MIN), Limits.above(400, 2000), calm),
                "");
        guards.set(
                "Slow for want of workers",
                false,
                new Watch("", new Scope("", "instance", 1, "", "", "", "", false), "", ""),
                new CombinationGuard(
                        Expression.parse("a and b"),
                        List.of(slow, workers),
                        Severity.CRITICAL,
                        true,
                        Terms.clearing(1, Duration.ZERO)),
                SLOW_NOTE);
        guards.set(
                "Partner gateway does not answer",
                true,
                Watch.of("endpoint_answers"),
                // It answers or it does not: there is nothing between to come back through.
                new LimitGuard(
                        sliding(5),
                        Amount.of(Amount.Fold.MAX),
                        Limits.of(Side.BELOW, null, 1.0),
                        Terms.clearing(1, Duration.ofMinutes(5))),
                "Look whether the partner has planned work. What fails meanwhile is **sent again** when it answers.");
        guards.set(
                "Certificate runs out",
                true,
                Watch.of("certificate_days_left"),
                new LimitGuard(sliding(5), Amount.of(Amount.Fold.MIN), Limits.below(14, 1), calm),
                "Platform keeps the next one in the key store. Have it put in before the last day.");
        guards.set(
                "Crew instance busy",
                true,
                new Watch("sessions", Scope.ALL.ofKind("instance").named("rooster-1"), "", ""),
                new LimitGuard(sliding(15), Amount.of(Amount.Fold.MEAN), Limits.above(250, 400), calm),
                "");
        guards.set(
                "Service not running",
                true,
                Watch.of("service").ofKind("service"),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofMinutes(10), "starting"),
                        StateGuard.Condition.in(Duration.ofMinutes(4), "stopped"),
                        Terms.clearing(1, Duration.ofMinutes(2)).withDamping(new Damping(3, Duration.ofHours(2)))),
                SERVICE_NOTE);
        guards.set(
                "Check not passed",
                true,
                Watch.of("check"),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofMinutes(10), "failed", "no answer"),
                        StateGuard.Condition.in(Duration.ofMinutes(20), "no answer"),
                        Terms.clearing(1, Duration.ZERO)),
                "Open the check and *try it now*: it shows what was asked, what came back, and which expectation was not met.");
        guards.set(
                "Vendor does not serve",
                true,
                Watch.of("vendor").ofKind("vendor instance"),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofMinutes(5), "serves in part"),
                        StateGuard.Condition.in(Duration.ZERO, "does not serve"),
                        Terms.clearing(1, Duration.ofMinutes(2))),
                "See what the vendor writes, and what we see beside it. Vendor Liaison calls them; who needs it is on its page.");
        guards.set(
                "Vendor's feed is not read",
                true,
                Watch.of("vendor_feed").ofKind("vendor instance"),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofMinutes(15), "in doubt", "not read"),
                        null,
                        Terms.clearing(1, Duration.ZERO)),
                "Open the instance: it says what could not be read. What is not read is not known, however quiet it is.");
        guards.set(
                "Sign of life missing",
                true,
                Watch.of("alive"),
                new SilenceGuard(Limits.above(0, 2), Terms.clearing(1, Duration.ZERO)),
                "Look whether what sends it runs; a copy or a transfer that does not begin says nothing else.");
        guards.set(
                "Version differs",
                true,
                Watch.of("version"),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofHours(1), "different"),
                        null,
                        Terms.clearing(1, Duration.ZERO)),
                "Ask who deployed whether the others follow. What runs in two versions for long fails in two ways.");
    }

    private static Window.Sliding sliding(int minutes) {
        return new Window.Sliding(Duration.ofMinutes(minutes));
    }
}
