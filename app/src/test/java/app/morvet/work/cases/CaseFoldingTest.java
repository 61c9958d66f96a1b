package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** Which alerts make one case, what the case says of them, and when a settled one opens again. */
class CaseFoldingTest extends ToldAlerts {
    @Autowired
    private CaseFacts facts;

    @Autowired
    private QuietEnds quiet;

    @Autowired
    private TransactionTemplate inTransaction;

    private void settle(app.morvet.MorvetTest.Subject subject, int minute) {
        var one = theCase(subject);
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "", at(minute));
    }

    @Test
    void anAlertOpensACaseAsOfWhenItWasRaised() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 10, WARNING, 3);
        var one = theCase(host);
        assertThat(one.state()).isEqualTo(CaseState.NEW);
        assertThat(one.severity()).isEqualTo(WARNING);
        assertThat(one.headline()).isEqualTo("heat is 3.0 on " + host.key());
        assertThat(one.openedAt()).isEqualTo(at(10));
        assertThat(one.overSince()).isNull();
        assertThat(logOf(one)).containsExactly("heat is 3.0 on " + host.key());
    }

    @Test
    void whateverAlertsOnOneComponentIsOneCaseAndTheWorstSpeaksFirst() {
        var hot = guard("Hot");
        var hotter = guard("Hotter");
        var host = component(host());
        raised(hot, host, 0, WARNING, 3);
        raised(hotter, host, 5, CRITICAL, 9);
        assertThat(casesOf(host)).hasSize(1);
        assertThat(theCase(host).severity()).isEqualTo(CRITICAL);
        assertThat(theCase(host).headline()).isEqualTo("heat is 9.0 on " + host.key());
        cleared(hotter, host, 20, 9);
        assertThat(theCase(host).severity()).isEqualTo(WARNING);
        assertThat(theCase(host).headline()).isEqualTo("heat is 3.0 on " + host.key());
        assertThat(theCase(host).overSince()).isNull();
    }

    /** A component on which a guard has just raised a warning. */
    private app.morvet.MorvetTest.Subject hot(long guard) {
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        return host;
    }

    /** A round holds many cases in its order, one mail tells of many in another: neither waits for the other, let alone both. */
    @Test
    void whoWritesIntoTheLogsOfManyWaitsForNobodyWhoHoldsThem() {
        var guard = guard("Hot");
        var one = hot(guard);
        var other = hot(guard);
        inTransaction.executeWithoutResult(round -> {
            cases.lock(theCase(one).id());
            CompletableFuture.runAsync(() -> inTransaction.executeWithoutResult(mail -> {
                        for (var each : List.of(other, one))
                            cases.log(theCase(each).id(), "call-out", "told", at(1));
                    }))
                    .orTimeout(20, TimeUnit.SECONDS)
                    .join();
            cases.lock(theCase(other).id());
        });
        for (var each : List.of(one, other))
            assertThat(wholeLogOf(theCase(each))).contains("told");
    }

    @Test
    void whatIsHeldWhenItsQuietEndsLetsOthersSpeakAndSpeaksTheNextTime() throws Exception {
        var guard = guard("Hot");
        var one = hot(guard);
        var other = hot(guard);
        for (var each : List.of(one, other))
            jdbc.sql("update work_case set quiet_until = now() where id = :id")
                    .param("id", theCase(each).id())
                    .update();
        var woke = "Quiet has ended, and it is still going on";
        inTransaction.executeWithoutResult(held -> {
            cases.lock(theCase(one).id());
            // One that goes on beside this test may hold the other for a moment.
            for (int times = 0; times < 100 && !logOf(theCase(other)).contains(woke); times++)
                CompletableFuture.runAsync(quiet::tell)
                        .orTimeout(20, TimeUnit.SECONDS)
                        .join();
            assertThat(logOf(theCase(other))).containsOnlyOnce(woke);
        });
        eventually(() -> assertThat(logOf(theCase(one))).containsOnlyOnce(woke));
    }

    @Test
    void oneGuardOnTwoComponentsIsTwoCases() {
        var guard = guard("Hot");
        var one = component(host());
        var other = component(host());
        raised(guard, one, 0, WARNING, 3);
        raised(guard, other, 0, CRITICAL, 8);
        assertThat(theCase(one).severity()).isEqualTo(WARNING);
        assertThat(theCase(other).severity()).isEqualTo(CRITICAL);
    }

    @Test
    void aCaseRisesAndEasesWithItsAlertAndTheLogTellsIt() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        rose(guard, host, 4, 8);
        assertThat(theCase(host).severity()).isEqualTo(CRITICAL);
        eased(guard, host, 9, 4, 8);
        assertThat(theCase(host).severity()).isEqualTo(WARNING);
        // Who is told of it stands there too, sooner or later.
        assertThat(logOf(theCase(host)))
                .filteredOn(words -> words.contains("heat is"))
                .containsExactly(
                        "heat is 3.0 on " + host.key(),
                        "rose to critical: heat is 8.0 on " + host.key(),
                        "eased to warning: heat is 4.0 on " + host.key());
    }

    @Test
    void whatIsOverSaysHowItWasAtItsWorstAndSinceWhenItIsOver() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        counted(guard, host, 3, 4.5, 4.5);
        counted(guard, host, 6, 0.5, 4.5);
        assertThat(theCase(host).headline()).isEqualTo("heat is 0.5 on " + host.key());
        cleared(guard, host, 8, 4.5);
        var one = theCase(host);
        assertThat(one.overSince()).isEqualTo(at(8));
        assertThat(one.headline()).isEqualTo("Over on The %s; at worst: heat is 4.5 on %s", host.key(), host.key());
        assertThat(one.state()).isEqualTo(CaseState.NEW);
    }

    @Test
    void aPeakWithinOneRoundIsToldAtTheEndThoughNobodyCountedIt() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        cleared(guard, host, 8, 31);
        assertThat(theCase(host).headline()).endsWith("at worst: heat is 31.0 on " + host.key());
    }

    @Test
    void whatWasWorstStaysSoThoughAnotherSeriesOfTheAlertIsMilder() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, CRITICAL, 9);
        // The one that was at its worst is back; the alert goes on with another, which never was so bad.
        counted(guard, host, 5, 6, 7);
        cleared(guard, host, 9, 7);
        assertThat(theCase(host).headline()).endsWith("at worst: heat is 9.0 on " + host.key());
    }

    @Test
    void anAlertThatFlapsSaysSoAndStaysOne() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        flaps(guard, host, 2, 4);
        assertThat(theCase(host).headline()).isEqualTo("heat is 4.0 on %s (comes and goes)", host.key());
        assertThat(logOf(theCase(host)))
                .anyMatch(words -> words.endsWith("comes and goes; it stays up until it is steady"));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 23})
    void whatComesBackWithinADayIsTheSameCase(int hours) {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        cleared(guard, host, 5, 3);
        settle(host, 10);
        assertThat(theCase(host).settled()).isTrue();
        raised(guard, host, 10 + hours * 60, WARNING, 4);
        var one = theCase(host);
        assertThat(one.state()).isEqualTo(CaseState.NEW);
        assertThat(one.progress().takenBy()).isNull();
        assertThat(logOf(one))
                .last()
                .asString()
                .startsWith("The case is open again: \"Hot")
                .endsWith("alerts again");
    }

    @Test
    void whatComesBackADayLaterIsAnotherCase() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        cleared(guard, host, 5, 3);
        settle(host, 10);
        raised(guard, host, 10 + 24 * 60, WARNING, 4);
        assertThat(casesOf(host)).hasSize(2);
        assertThat(casesOf(host)).extracting(row -> row.get("state")).containsExactly("SETTLED", "NEW");
    }

    @Test
    void anAlertThatIsUpStillOpensItsSettledCaseWhenItRisesButNotWhenItEases() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        settle(host, 2);
        eased(guard, host, 4, 2.5, 3);
        assertThat(theCase(host).settled()).isTrue();
        rose(guard, host, 6, 8);
        assertThat(theCase(host).settled()).isFalse();
        assertThat(logOf(theCase(host))).contains("The case is open again: it rose to critical after it was settled");
    }

    @Test
    void aCountOpensItsSettledCaseOnceItHasGrownByItsLimitAgain() {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        settle(host, 2);
        counted(guard, host, 3, 5, 5);
        assertThat(theCase(host).settled())
                .as("grown by 2, which its limit of 2 allows")
                .isTrue();
        counted(guard, host, 4, 5.5, 5.5);
        assertThat(theCase(host).settled()).isFalse();
        assertThat(logOf(theCase(host))).contains("The case is open again: it grew again after it was settled");
    }

    @Test
    void aQuietCaseWakesForWhatIsWorseAndForNothingElse() {
        var hot = guard("Hot");
        var also = guard("Also hot");
        var host = component(host());
        raised(hot, host, 0, WARNING, 3);
        var one = theCase(host);
        cases.quiet(
                one.id(), one.version(), person("analyst"), Instant.now().plus(Duration.ofHours(4)), "", Instant.now());
        raised(also, host, 5, WARNING, 4);
        assertThat(theCase(host).progress().quietUntil()).isNotNull();
        rose(also, host, 6, 7);
        assertThat(theCase(host).progress().quietUntil()).isNull();
        assertThat(logOf(theCase(host))).contains("Quiet has ended: it became critical");
    }

    @Test
    void theEndOfAnAlertThatNeverWasIsNothing() {
        var guard = guard("Hot");
        var host = component(host());
        cleared(guard, host, 0, 3);
        counted(guard, host, 1, 3, 3);
        assertThat(casesOf(host)).isEmpty();
    }

    @Test
    void whatASlowJobDoesToOthersBelongsToItsCase() {
        var long1 = runGuard(RunTrouble.RUNNING_LONG);
        var risk = runGuard(RunTrouble.DEADLINE_AT_RISK);
        var settle = component(job());
        var bank = component(job());
        run(long1, settle, settle, Transition.Kind.RAISED, 0, 44, "Settle is running 44 min over");
        run(
                risk,
                bank,
                settle,
                Transition.Kind.RAISED,
                1,
                8,
                "Bank file likely 07:31, deadline 06:30 (8 % to make it)");
        assertThat(casesOf(bank)).isEmpty();
        var one = theCase(settle);
        assertThat(jdbc.sql("select count(*) from case_alert where case_id = :id")
                        .param("id", one.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(2);
        run(long1, settle, settle, Transition.Kind.CLEARED, 50, 44, "");
        assertThat(theCase(settle).overSince()).isNull();
        run(risk, bank, settle, Transition.Kind.CLEARED, 55, 8, "");
        assertThat(theCase(settle).overSince()).isEqualTo(at(55));
    }

    @Test
    void aCaseShowsTheFactsOfWhatRaisedItAndNoOthers() throws Exception {
        var guard = guard("Hot");
        var host = component(host());
        raised(guard, host, 0, WARNING, 3);
        counted(guard, host, 3, 2.5, 4.5);
        assertThat(facts.of(theCase(host), Instant::toString))
                .containsExactly(
                        new CaseFacts.Fact("Value", "2.5 now, 4.5 at worst"),
                        new CaseFacts.Fact("Limits", "warn above 2, critical above 5"),
                        new CaseFacts.Fact("Since", at(-10).toString()));
        cleared(guard, host, 8, 4.5);
        assertThat(facts.of(theCase(host), Instant::toString).getFirst())
                .isEqualTo(new CaseFacts.Fact("Value", "4.5 at worst"));

        var risk = runGuard(RunTrouble.DEADLINE_AT_RISK);
        var bank = component(job());
        run(risk, bank, bank, Transition.Kind.RAISED, 1, 8, "Bank file likely 07:31");
        assertThat(CaseFacts.line(facts.of(theCase(bank), time -> "02:01")))
                .isEqualTo("Value 8 % to make it; Since 02:01");

        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> assertThat(facts.of(theCase(subject), Instant::toString))
                .extracting(CaseFacts.Fact::name)
                .containsExactly("Failed", "First", "Last"));
        assertThat(facts.of(theCase(subject), Instant::toString).getFirst().words())
                .isEqualTo("4 messages");
    }

    /** Rounds run on threads of their own; what they find of one component at the same moment is one case all the same. */
    @Test
    void roundsThatAlertAtTheSameMomentMakeOneCase() throws Exception {
        var host = component(host());
        var together = new ArrayList<Callable<Void>>();
        for (int i = 0; i < 12; i++) {
            long guard = guard("At once");
            together.add(() -> {
                raised(guard, host, 0, WARNING, 3);
                return null;
            });
        }
        raised(guard("First of a series"), component(host()), 0, WARNING, 3);
        try (var threads = Executors.newFixedThreadPool(6)) {
            for (var done : threads.invokeAll(together)) done.get();
        }
        assertThat(jdbc.sql("select count(*) from case_alert where case_id = :id")
                        .param("id", theCase(host).id())
                        .query(Long.class)
                        .single())
                .isEqualTo(12);
    }

    /** Whatever order alerts come in, the cases are the same: one for each component, as bad as its worst. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void theOrderOfAlertsMakesNoDifference(long seed) {
        var random = new Random(seed);
        var hosts = List.of(component(host()), component(host()), component(host()));
        record One(long guard, Subject host, Severity level, int minute) {}
        var alerts = new ArrayList<One>();
        for (int i = 0; i < 9; i++)
            alerts.add(new One(
                    guard("Any order"),
                    hosts.get(i % 3),
                    random.nextInt(3) == 0 ? CRITICAL : WARNING,
                    random.nextInt(60)));
        Collections.shuffle(alerts, random);
        alerts.forEach(
                one -> raised(one.guard(), one.host(), one.minute(), one.level(), one.level() == CRITICAL ? 8 : 3));
        for (var host : hosts) {
            var worst = alerts.stream()
                    .filter(one -> one.host().equals(host))
                    .map(One::level)
                    .max(java.util.Comparator.naturalOrder())
                    .orElseThrow();
            assertThat(theCase(host).severity()).isEqualTo(worst);
        }
        Collections.shuffle(alerts, random);
        alerts.forEach(one -> cleared(one.guard(), one.host(), 70, 8));
        for (var host : hosts) assertThat(theCase(host).overSince()).isEqualTo(at(70));
    }
}
