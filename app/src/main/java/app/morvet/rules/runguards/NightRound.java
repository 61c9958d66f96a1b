package app.morvet.rules.runguards;

import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Finding;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.ground.base.PastRound;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.nodes.Notices;
import app.morvet.ground.page.Live;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.RunsRecorded;
import app.morvet.sources.batch.StartKeeping;
import app.morvet.sources.batch.StoredJob;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Watches the night, live: builds it from what was told, plays through how it goes on, keeps what became of each expected
 * start, and raises an alert for each guard and job that is in trouble. A round when runs are told, and every ten seconds all
 * the same, since what does not start is told by nobody. On one node at a time.
 */
@Component
@Order(3)
public class NightRound extends Rounds implements PastRound {
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(10);
    private static final Duration FIRST_DAY = Duration.ofHours(31);
    private static final Duration HALF_A_DAY = Duration.ofHours(12);
    private static final Duration PAGES_TOLD_EVERY = Duration.ofSeconds(30);
    private static final Duration BREATH = Duration.ofSeconds(1);

    private static final String RECORDED = "runs";

    private record Key(long guard, long component) {}

    private final Nights nights;
    private final StartKeeping starts;
    private final RunGuards guards;
    private final AlertDesk desk;
    private final Alerts alerts;
    private final JobBook jobs;
    private final Live live;
    private final Leases.Share share;
    private final Notices notices;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private Instant pagesToldAt = Instant.EPOCH;
    private Leases.Held held;

    NightRound(
            Nights nights,
            StartKeeping starts,
            RunGuards guards,
            AlertDesk desk,
            Alerts alerts,
            JobBook jobs,
            Live live,
            Leases leases,
            Notices notices,
            TransactionTemplate transaction,
            Clock clock) {
        super(
                "night-round",
                new Undone("The night is not watched", "The night is watched late", "/batch"),
                LOOKED_AT_EVERY);
        this.nights = nights;
        this.starts = starts;
        this.guards = guards;
        this.desk = desk;
        this.alerts = alerts;
        this.jobs = jobs;
        this.live = live;
        this.notices = notices;
        this.share = leases.share("runs", 1);
        this.held = share.all();
        notices.hearOthers(RECORDED, this::wake);
        notices.hearOthers(JobBook.CHANGED, this::wake);
        this.transaction = transaction;
        this.clock = clock;
    }

    @EventListener
    void tell(RunsRecorded recorded) {
        notices.tell(RECORDED);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(RunsRecorded recorded) {
        wake();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(JobBook.JobsChanged changed) {
        wake();
    }

    @Override
    protected boolean round() throws InterruptedException {
        var now = clock.instant();
        var before = held;
        held = share.held();
        if (held.none()) return false;
        if (!held.equals(before)) starts.forget();
        tell(nights.make(now, atRisk()), now);
        // Runs come in by the second; the night is not played through more often than that.
        Thread.sleep(BREATH);
        return false;
    }

    @Override
    public Duration step() {
        return Duration.ofMinutes(15);
    }

    /** Of what was before {@code from}, only what became of the starts is kept, and nothing raised. */
    @Override
    public PastRound.Walk walk(Instant from, Instant to) {
        if (isRunning()) throw new IllegalStateException("rounds are running");
        held = share.all();
        var past = nights.past(from, to, step());
        for (var at = past.first().plus(FIRST_DAY); at.isBefore(from); at = at.plus(HALF_A_DAY)) {
            var outcomes = starts.changed(past.at(at, atRisk()), at);
            starts.store(outcomes);
            starts.remember(outcomes);
        }
        return now -> tell(past.at(now, atRisk()), now);
    }

    private Set<String> atRisk() {
        var byGuard = guards.all().stream()
                .filter(one -> one.rule().trouble() == RunTrouble.DEADLINE_AT_RISK)
                .map(RunGuards.Stored::id)
                .collect(Collectors.toSet());
        return alerts.raised(RunGuardOrigins.KIND).stream()
                .filter(one -> byGuard.contains(one.origin().id()))
                .map(one -> jobs.byComponent(one.about().component())
                        .map(StoredJob::key)
                        .orElse(""))
                .collect(Collectors.toSet());
    }

    private void tell(Nights.View standing, Instant now) {
        var outcomes = starts.changed(standing, now);
        transaction.executeWithoutResult(status -> {
            held.sure();
            starts.store(outcomes);
            int moved = desk.found(RunGuardOrigins.KIND, findings(standing), now);
            // Runs are told by the second; open pages need not be made anew as often as that.
            if (!outcomes.isEmpty()
                    || moved > 0
                    || pagesToldAt.plus(PAGES_TOLD_EVERY).isBefore(now)) {
                live.changed("batch");
                pagesToldAt = now;
            }
        });
        starts.remember(outcomes);
    }

    /** What guards over runs find of what is wrong with the night. */
    private List<Finding> findings(Nights.View standing) {
        var up = desk.raised(RunGuardOrigins.KIND).stream()
                .map(one -> new Key(one.origin().id(), one.about().component()))
                .collect(Collectors.toSet());
        var found = new ArrayList<Finding>();
        var standingGuards = guards.all();
        for (var finding : standing.findings()) {
            var job = standing.jobs().get(finding.job());
            var cause = standing.jobs().get(finding.cause());
            if (job == null || cause == null) continue;
            long component = job.component().id();
            for (var guard : standingGuards) {
                boolean calls = guard.rule().calls(finding, up.contains(new Key(guard.id(), component)));
                if (!calls || !guards.takes(guard, job.job())) continue;
                found.add(new Finding(
                        RunGuardOrigins.origin(guard.id()),
                        "c" + component,
                        About.causedBy(cause.component().id(), component),
                        RunWatch.severity(guard.rule(), finding),
                        finding.value(),
                        finding.words(),
                        finding.since(),
                        occasion(finding)));
            }
        }
        return found;
    }

    /** A deadline is at risk whichever night's it is; all else is about one start, or about a run that nobody expected. */
    private static String occasion(RunWatch.Finding finding) {
        if (finding.trouble() == RunTrouble.DEADLINE_AT_RISK) return "";
        return finding.cycle() != null ? finding.cycle().toString() : "run " + finding.run();
    }
}
