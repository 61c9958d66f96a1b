package app.morvet.batch;

import app.morvet.base.Rounds;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
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
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
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
public class BatchRound extends Rounds {
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(10);
    private static final int NIGHTS_OF_THE_PAST = 60;
    private static final Duration PAGES_TOLD_EVERY = Duration.ofSeconds(30);
    private static final Duration BREATH = Duration.ofSeconds(1);

    private record Key(long guard, long component) {}

    private record Holds(RunWatch.Finding finding, Severity level, long cause) {}

    private final Nights nights;
    private final RunStore runs;
    private final RunGuards guards;
    private final RunGuardStore alerts;
    private final JobBook jobs;
    private final UsualDurations usuals;
    private final Live live;
    private final ApplicationEventPublisher events;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final Map<Long, Map<Instant, RunStore.Kept>> kept = new HashMap<>();
    private boolean keptIsRead;
    private Instant pagesToldAt = Instant.EPOCH;

    BatchRound(
            Nights nights,
            RunStore runs,
            RunGuards guards,
            RunGuardStore alerts,
            JobBook jobs,
            UsualDurations usuals,
            Live live,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Clock clock) {
        super("batch-round", LOOKED_AT_EVERY);
        this.nights = nights;
        this.runs = runs;
        this.guards = guards;
        this.alerts = alerts;
        this.jobs = jobs;
        this.usuals = usuals;
        this.live = live;
        this.events = events;
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

    /** A past that is gone through as it would have been live; only while no rounds are running. */
    public final class Past {
        private final Map<Long, List<Run>> known;

        private Past(Instant from, Instant to) {
            this.known = runs.between(from.minus(Nights.BACK).minus(Nights.EARLIER), to);
        }

        /** Goes on to an instant as it would have been live. */
        public void goTo(Instant now) {
            tell(standing(now), now);
        }

        /** Keeps what became of the starts before an instant, and raises nothing. */
        public void recall(Instant now) {
            var outcomes = changedOutcomes(standing(now), now);
            runs.keepOutcomes(outcomes);
            remember(outcomes);
        }

        private Nights.Standing standing(Instant now) {
            if (isRunning()) throw new IllegalStateException("rounds are running");
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
    }

    public Past past(Instant from, Instant to) {
        return new Past(from, to);
    }

    private Set<String> atRisk() {
        var byGuard = guards.all().stream()
                .filter(one -> one.rule().trouble() == RunTrouble.DEADLINE_AT_RISK)
                .map(RunGuards.Standing::id)
                .collect(Collectors.toSet());
        return alerts.up().stream()
                .filter(one -> byGuard.contains(one.guard()))
                .map(one ->
                        jobs.byComponent(one.component()).map(StandingJob::key).orElse(""))
                .collect(Collectors.toSet());
    }

    private void tell(Nights.Standing standing, Instant now) {
        var outcomes = changedOutcomes(standing, now);
        transaction.executeWithoutResult(status -> {
            runs.keepOutcomes(outcomes);
            var up = new HashMap<Key, RunGuardStore.Up>();
            for (var one : alerts.up()) up.put(new Key(one.guard(), one.component()), one);
            var moved = new ArrayList<RunsMoved.Moved>();
            var counted = new ArrayList<RunsMoved.Counted>();
            alert(holding(standing, up.keySet()), up, now, moved, counted);
            if (!moved.isEmpty() || !counted.isEmpty()) events.publishEvent(new RunsMoved(moved, counted));
            // Runs are told by the second; open pages need not be made anew as often as that.
            if (!outcomes.isEmpty()
                    || !moved.isEmpty()
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

    /** For each guard and job, the worst that holds now. */
    private Map<Key, Holds> holding(Nights.Standing standing, Set<Key> up) {
        var holding = new LinkedHashMap<Key, Holds>();
        var standingGuards = guards.all();
        for (var finding : standing.findings()) {
            var job = standing.jobs().get(finding.job());
            var cause = standing.jobs().get(finding.cause());
            if (job == null || cause == null) continue;
            for (var guard : standingGuards) {
                var key = new Key(guard.id(), job.component().id());
                if (!guard.rule().calls(finding, up.contains(key)) || !guards.takes(guard, job.job())) continue;
                var level = RunWatch.severity(guard.rule(), finding);
                holding.merge(
                        key,
                        new Holds(finding, level, cause.component().id()),
                        (a, b) -> b.level().worseThan(a.level()) ? b : a);
            }
        }
        return holding;
    }

    private void alert(
            Map<Key, Holds> holding,
            Map<Key, RunGuardStore.Up> up,
            Instant now,
            List<RunsMoved.Moved> moved,
            List<RunsMoved.Counted> counted) {
        holding.forEach((key, holds) -> {
            var known = up.remove(key);
            var finding = holds.finding();
            // The same trouble with another start is trouble anew, even where nobody saw it go in between.
            boolean anew = known != null && !known.occasion().equals(occasion(finding));
            if (anew) over(key, known, now, moved);
            var before = anew ? null : known;
            double value = finding.value();
            double worst = before == null ? value : finding.trouble().worse(before.worst(), value);
            var raised = before == null ? earlier(finding.since(), now) : before.raisedAt();
            var one = new RunGuardStore.Up(
                    key.guard(),
                    key.component(),
                    raised,
                    holds.level(),
                    value,
                    worst,
                    finding.words(),
                    occasion(finding));
            if (before != null
                    && before.level() == one.level()
                    && before.words().equals(one.words())) return;
            alerts.put(one);
            if (before != null && before.level() == one.level()) {
                counted.add(new RunsMoved.Counted(key.guard(), key.component(), now, value, worst, one.words()));
                return;
            }
            var kind = before == null
                    ? Transition.Kind.RAISED
                    : one.level().worseThan(before.level()) ? Transition.Kind.ROSE : Transition.Kind.EASED;
            var at = before == null ? raised : now;
            moved.add(new RunsMoved.Moved(
                    key.guard(),
                    key.component(),
                    holds.cause(),
                    new Transition(kind, at, holds.level(), value, worst),
                    one.words()));
        });
        up.forEach((key, gone) -> {
            alerts.remove(gone);
            over(key, gone, now, moved);
        });
    }

    private static void over(Key key, RunGuardStore.Up gone, Instant now, List<RunsMoved.Moved> moved) {
        moved.add(new RunsMoved.Moved(
                key.guard(),
                key.component(),
                key.component(),
                new Transition(Transition.Kind.CLEARED, now, null, gone.value(), gone.worst()),
                gone.words()));
    }

    /** A deadline is at risk whichever night's it is; all else is about one start, or about a run that nobody expected. */
    private static String occasion(RunWatch.Finding finding) {
        if (finding.trouble() == RunTrouble.DEADLINE_AT_RISK) return "";
        return finding.cycle() != null ? finding.cycle().toString() : "run " + finding.run();
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }
}
