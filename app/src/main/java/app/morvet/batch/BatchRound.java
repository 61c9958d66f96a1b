package app.morvet.batch;

import app.morvet.alerts.AlertDesk;
import app.morvet.alerts.Alerts;
import app.morvet.base.PastRound;
import app.morvet.base.Rounds;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Finding;
import app.morvet.core.batch.Occurrence;
import app.morvet.core.batch.Outcome;
import app.morvet.core.batch.Run;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.page.Live;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Watches the night, live: builds it from what was told, plays through how it goes on, keeps what became of each expected
 * start, and raises an alert for each guard and job that is in trouble. A round when runs are told, and every ten seconds all
 * the same, since what does not start is told by nobody.
 */
@Component
@Order(3)
public class BatchRound extends Rounds implements PastRound {
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(10);
    private static final Duration FIRST_DAY = Duration.ofHours(31);
    private static final Duration HALF_A_DAY = Duration.ofHours(12);
    private static final int NIGHTS_OF_THE_PAST = 60;
    private static final Duration PAGES_TOLD_EVERY = Duration.ofSeconds(30);
    private static final Duration BREATH = Duration.ofSeconds(1);

    private record Key(long guard, long component) {}

    private final Nights nights;
    private final RunStore runs;
    private final RunGuards guards;
    private final AlertDesk desk;
    private final Alerts alerts;
    private final JobBook jobs;
    private final UsualDurations usuals;
    private final Live live;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final Map<Long, Map<Instant, RunStore.Kept>> kept = new HashMap<>();
    private boolean keptIsRead;
    private Instant pagesToldAt = Instant.EPOCH;

    BatchRound(
            Nights nights,
            RunStore runs,
            RunGuards guards,
            AlertDesk desk,
            Alerts alerts,
            JobBook jobs,
            UsualDurations usuals,
            Live live,
            TransactionTemplate transaction,
            Clock clock) {
        super("batch-round", LOOKED_AT_EVERY);
        this.nights = nights;
        this.runs = runs;
        this.guards = guards;
        this.desk = desk;
        this.alerts = alerts;
        this.jobs = jobs;
        this.usuals = usuals;
        this.live = live;
        this.transaction = transaction;
        this.clock = clock;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(RunIntake.RunsRecorded recorded) {
        wake();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(JobBook.JobsChanged changed) {
        usuals.forget();
        wake();
    }

    @Override
    protected boolean round() throws InterruptedException {
        var now = clock.instant();
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
        var first = runs.first().orElse(from);
        var known = runs.between(first.minus(Nights.BACK).minus(Nights.EARLIER), to.plus(Duration.ofMinutes(10)));
        for (var at = first.plus(FIRST_DAY); at.isBefore(from); at = at.plus(HALF_A_DAY)) recall(asOf(known, at), at);
        return now -> tell(asOf(known, now), now);
    }

    private void recall(Nights.Standing standing, Instant now) {
        var outcomes = changedOutcomes(standing, now);
        runs.keepOutcomes(outcomes);
        remember(outcomes);
    }

    private Nights.Standing asOf(Map<Long, List<Run>> known, Instant now) {
        var some = new HashMap<Long, List<Run>>();
        known.forEach((job, all) -> {
            var near = all.stream()
                    .filter(one -> one.at().isAfter(now.minus(Nights.BACK).minus(Nights.EARLIER))
                            && !one.at().isAfter(now))
                    .toList();
            if (!near.isEmpty()) some.put(job, near);
        });
        return nights.make(now, atRisk(), some, NIGHTS_OF_THE_PAST);
    }

    private Set<String> atRisk() {
        var byGuard = guards.all().stream()
                .filter(one -> one.rule().trouble() == RunTrouble.DEADLINE_AT_RISK)
                .map(RunGuards.Standing::id)
                .collect(Collectors.toSet());
        return alerts.raised(RunGuardOrigins.KIND).stream()
                .filter(one -> byGuard.contains(one.origin().id()))
                .map(one -> jobs.byComponent(one.about().component())
                        .map(StandingJob::key)
                        .orElse(""))
                .collect(Collectors.toSet());
    }

    private void tell(Nights.Standing standing, Instant now) {
        var outcomes = changedOutcomes(standing, now);
        transaction.executeWithoutResult(status -> {
            runs.keepOutcomes(outcomes);
            int moved = desk.found(RunGuardOrigins.KIND, findings(standing), now);
            // Runs are told by the second; open pages need not be made anew as often as that.
            if (!outcomes.isEmpty()
                    || moved > 0
                    || pagesToldAt.plus(PAGES_TOLD_EVERY).isBefore(now)) {
                live.changed("batch");
                pagesToldAt = now;
            }
        });
        remember(outcomes);
    }

    private void remember(List<RunStore.Expected> outcomes) {
        for (var one : outcomes)
            kept.computeIfAbsent(one.component(), none -> new HashMap<>())
                    .put(one.cycle(), new RunStore.Kept(one.cycle(), one.outcome(), one.run()));
    }

    /** What became of starts that have come, where that is not stored yet. */
    private List<RunStore.Expected> changedOutcomes(Nights.Standing standing, Instant now) {
        if (!keptIsRead) {
            kept.putAll(runs.outcomes(now.minus(Nights.BACK), now.plus(Nights.AHEAD)));
            keptIsRead = true;
        }
        kept.values().forEach(some -> some.keySet()
                .removeIf(cycle -> cycle.isBefore(now.minus(Nights.BACK.plus(Duration.ofHours(2))))));
        var changed = new ArrayList<RunStore.Expected>();
        for (var one : standing.night().occurrences()) {
            if (one.outcome() == Outcome.PLANNED) continue;
            long component = java.util.Objects.requireNonNull(
                            standing.jobs().get(one.job().key()))
                    .component()
                    .id();
            var before = kept.getOrDefault(component, Map.of()).get(one.cycle());
            var run = lastRun(one);
            if (before == null
                    || !before.outcome().equals(one.outcome().name())
                    || !java.util.Objects.equals(before.run(), run))
                changed.add(new RunStore.Expected(
                        component,
                        one.cycle(),
                        one.planned(),
                        one.deadline(),
                        one.outcome().name(),
                        run));
        }
        return changed;
    }

    private static @Nullable Long lastRun(Occurrence one) {
        var last = one.last();
        return last == null ? null : last.id();
    }

    /** What guards over runs find of what is wrong with the night. */
    private List<Finding> findings(Nights.Standing standing) {
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
