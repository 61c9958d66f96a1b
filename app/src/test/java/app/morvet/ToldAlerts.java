package app.morvet;

import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.Sort;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.estate.Estate;
import app.morvet.rules.runguards.RunGuards;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Alerts as rounds bring them to the desk, at instants that a test chooses: what becomes of them is then the same each time, and no
 * reading needs to be waited for.
 */
public abstract class ToldAlerts extends MorvetTest {
    private static final AtomicInteger NUMBER = new AtomicInteger();

    /** A Tuesday morning, well before now. */
    protected static final Instant T =
            Instant.now().minus(Duration.ofDays(3)).truncatedTo(java.time.temporal.ChronoUnit.HOURS);

    @Autowired
    protected CaseBook cases;

    @Autowired
    protected RunGuards runGuards;

    @Autowired
    private SeriesBook series;

    @Autowired
    private AlertDesk desk;

    @Autowired
    private TransactionTemplate transaction;

    @Autowired
    private Map<String, Rounds> rounds;

    /** A round over runs finds what is there, and would clear at any time what a test only tells of. */
    private void withoutRoundsOverRuns() {
        round("nightRound").stop();
    }

    @AfterEach
    void roundsOverRunsGoOn() {
        round("nightRound").start();
    }

    protected Rounds round(String name) {
        return Objects.requireNonNull(rounds.get(name));
    }

    protected static Instant at(int minutes) {
        return T.plusSeconds(minutes * 60L);
    }

    /** A guard that is switched off, so that it says only what a test has it say: warns above 2, is critical above 5. */
    protected long guard(String name) {
        return guard(name, Amount.Fold.SUM, "Open the **sea valve**.");
    }

    protected long guard(String name, Amount.Fold fold, String fixNote) {
        return guard(name, Watch.of("heat"), fold, fixNote);
    }

    protected long guard(String name, Watch watch, Amount.Fold fold, String fixNote) {
        setUpOnce();
        return guards.set(
                name + " " + NUMBER.incrementAndGet(),
                false,
                watch,
                new LimitGuard(
                        new Window.Sliding(Duration.ofMinutes(10)),
                        Amount.of(fold),
                        Limits.above(2, 5),
                        Terms.clearing(0.5, Duration.ZERO)),
                fixNote);
    }

    /** The same of what something is in: what it tells is that it does not work. */
    protected long stateGuard(String name) {
        setUpOnce();
        return guards.set(
                name + " " + NUMBER.incrementAndGet(),
                false,
                Watch.of("service"),
                new StateGuard(
                        null,
                        StateGuard.Condition.in(Duration.ofMinutes(2), "stopped"),
                        Terms.clearing(0.5, Duration.ZERO)),
                "");
    }

    /** One that foretells when heat will be above 95. */
    protected long trendGuard(String name) {
        setUpOnce();
        return guards.set(
                name + " " + NUMBER.incrementAndGet(),
                false,
                Watch.of("heat"),
                new TrendGuard(
                        95,
                        Side.ABOVE,
                        Duration.ofDays(3),
                        true,
                        ZoneId.of("UTC"),
                        Limits.below(48, 8),
                        Terms.clearing(0.8, Duration.ofHours(1))),
                "");
    }

    /** A component of a kind in an application of its own, owned by a team of its own. */
    protected Subject component(String kind) {
        return subject(kind.replace(' ', '-') + "-told-" + NUMBER.incrementAndGet(), "The ", kind);
    }

    /** Another of the same application, of the kind of a host. */
    protected Subject beside(Subject one) {
        var key = one.key() + "-" + NUMBER.incrementAndGet();
        var application =
                estate.applicationOf(estate.component(one.id())).orElseThrow().id();
        estate.add(key, "The " + key, host(), application);
        return new Subject(key, estate.byKey(key).orElseThrow().id(), one.team(), one.mail());
    }

    /** Something that has registered itself and belongs to nobody yet. */
    protected Subject stray(String kind) {
        setUpOnce();
        var key = "stray-" + NUMBER.incrementAndGet();
        estate.register(List.of(new Estate.Newcomer(key, kind)));
        return new Subject(key, estate.byKey(key).orElseThrow().id(), 0, "");
    }

    private long seriesOf(Subject subject) {
        return series.find(subject.id(), "heat", Map.of())
                .orElseGet(() -> {
                    long feed = estate.feeds().getFirst().id();
                    series.register(
                            List.of(new SeriesBook.Newcomer(subject.id(), "heat", Sort.GAUGE, "", "", Map.of())), feed);
                    return series.find(subject.id(), "heat", Map.of()).orElseThrow();
                })
                .id();
    }

    protected void tell(long guard, Subject subject, Transition change, String words, String worst) {
        long of = seriesOf(subject);
        tell(new Move(new Origin("guard", guard), "s" + of, About.of(subject.id()), of, change, words, worst, ""));
    }

    /** What a round would bring to the desk, to be told with others at once. */
    protected Move raising(long guard, Subject subject, int minute, Severity level, String words) {
        long of = seriesOf(subject);
        var change = new Transition(Transition.Kind.RAISED, at(minute), level, 9, 9);
        return new Move(new Origin("guard", guard), "s" + of, About.of(subject.id()), of, change, words, words, "");
    }

    protected void tell(Move... moves) {
        transaction.executeWithoutResult(status -> desk.moved(List.of(moves)));
    }

    private void tell(
            long guard, Subject subject, Transition.Kind kind, int minute, Severity level, double value, double worst) {
        var words = "heat is " + value + " on " + subject.key();
        var atWorst = "heat is " + worst + " on " + subject.key();
        tell(guard, subject, new Transition(kind, at(minute), level, value, worst), words, atWorst);
    }

    protected void raised(long guard, Subject subject, int minute, Severity level, double value) {
        tell(guard, subject, Transition.Kind.RAISED, minute, level, value, value);
    }

    protected void rose(long guard, Subject subject, int minute, double value) {
        tell(guard, subject, Transition.Kind.ROSE, minute, Severity.CRITICAL, value, value);
    }

    protected void eased(long guard, Subject subject, int minute, double value, double worst) {
        tell(guard, subject, Transition.Kind.EASED, minute, Severity.WARNING, value, worst);
    }

    protected void flaps(long guard, Subject subject, int minute, double value) {
        tell(guard, subject, Transition.Kind.FLAPS, minute, Severity.WARNING, value, value);
    }

    protected void cleared(long guard, Subject subject, int minute, double worst) {
        tell(guard, subject, Transition.Kind.CLEARED, minute, null, 0, worst);
    }

    protected void counted(long guard, Subject subject, int minute, double value, double worst) {
        tell(guard, subject, Transition.Kind.SAYS, minute, Severity.WARNING, value, worst);
    }

    protected long runGuard(RunTrouble trouble) {
        setUpOnce();
        return runGuards.set(
                trouble.state() + " " + NUMBER.incrementAndGet(),
                RunGuard.of(trouble, Scope.ofJob("none of them"), Severity.WARNING),
                "Look at the plan of the night.");
    }

    /** @param cause the job that brings it about */
    protected void run(
            long guard, Subject job, Subject cause, Transition.Kind kind, int minute, double value, String words) {
        withoutRoundsOverRuns();
        var level = kind == Transition.Kind.CLEARED ? null : Severity.WARNING;
        var change = new Transition(kind, at(minute), level, value, value);
        var about = About.causedBy(cause.id(), job.id());
        tell(new Move(new Origin("run guard", guard), "c" + job.id(), about, change, words, words));
    }

    protected WorkCase theCase(Subject subject) {
        return cases.find((Long) caseOf(subject).get("id")).orElseThrow();
    }

    /** What alerts and people did; who is told of it comes to it at a time of its own, and stands in {@link #wholeLogOf}. */
    protected List<String> logOf(WorkCase one) {
        return jdbc.sql("select words from case_entry where case_id = :id and kind <> 'call-out' order by at, id")
                .param("id", one.id())
                .query(String.class)
                .list();
    }

    protected List<String> wholeLogOf(WorkCase one) {
        return jdbc.sql("select words from case_entry where case_id = :id order by at, id")
                .param("id", one.id())
                .query(String.class)
                .list();
    }

    protected static String host() {
        return "host";
    }

    protected static String job() {
        return Estate.JOB;
    }
}
