package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.handoff.HandoffState;
import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.estate.Estate;
import app.morvet.work.handoffs.Desks;
import app.morvet.work.handoffs.HandoffDesk;
import app.morvet.work.handoffs.HandoffTest;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** Which rule has whom told of what, as it is kept and as it works. */
class CallOutRulesTest extends ToldPeople {
    @Autowired
    private CallOutController now;

    @Autowired
    private LateCases lateCases;

    @Autowired
    private CourseStore courses;

    @Autowired
    private Desks desks;

    @Autowired
    private HandoffDesk handoffs;

    @Autowired
    private NotAccepted notAccepted;

    @Autowired
    private TransactionTemplate transaction;

    private long first;
    private long second;
    private long guard;
    private int minute;

    @BeforeEach
    void twoLines() {
        host = component("host");
        first = onDuty(0, "Otso", "");
        second = onDuty(1, "Linnea", "");
        guard = guard("critical");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
    }

    private static Step line(int line, int after) {
        return new Step(Duration.ofMinutes(after), new Whom.OnDuty(Whom.OWNER, line), List.of(Way.MAIL));
    }

    private static Step address(String mail, int after) {
        return new Step(Duration.ofMinutes(after), new Whom.Address(mail), List.of(Way.MAIL));
    }

    private void critical() {
        raised(guard, host, minute, CRITICAL, 9);
    }

    @Test
    void theFirstRuleThatTakesItIsFollowedAndTheLastIsNotAsked() {
        rule("Second first", Happening.OPENED, null, false, line(1, 0), line(0, 5));
        critical();
        assertThat(told("OPENED")).containsExactly(mail(second));
        later(5);
        assertThat(told("OPENED")).containsExactly(mail(second), mail(first));
    }

    @Test
    void aRuleThatGoesOnLeavesTheOthersTheirTurn() {
        rule("Also", Happening.OPENED, null, true, address("night@sundrava.example", 0));
        critical();
        assertThat(told("OPENED")).containsExactlyInAnyOrder("night@sundrava.example", mail(first));
        later(15);
        assertThat(told("OPENED")).hasSize(3).contains(mail(second));
        assertThat(jdbc.sql("select count(*) from call_out_course where case_id = :id and unheard is not null")
                        .param("id", caseId())
                        .query(Integer.class)
                        .single())
                .as("the one rule has told all whom it tells, the other has not")
                .isZero();
    }

    @Test
    void allAreToldAgainUntilSomebodyHasIt() {
        rule("Again", Happening.OPENED, Duration.ofMinutes(20), false, line(0, 0));
        critical();
        later(20);
        later(20);
        assertThat(told("OPENED")).containsExactly(mail(first), mail(first), mail(first));
        assertThat(jdbc.sql("select subject from delivery where case_id = :id and round = 2")
                        .param("id", caseId())
                        .query(String.class)
                        .single())
                .startsWith("Still open. Critical: heat is 9.0");
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), Instant.now());
        later(20);
        assertThat(told("OPENED")).hasSize(3);
        cleared(guard, host, minute + 90, 9);
        assertThat(told("OVER")).as("each once").containsExactly(mail(first));
    }

    @Test
    void whatNobodyTakesInItsTimeIsToldByTheRuleForThat() {
        rule("Late", Happening.LATE, null, false, address("shift@sundrava.example", 0));
        critical();
        var id = "%d CRITICAL %d".formatted(caseId(), Instant.now().toEpochMilli());
        lateCases.run(id);
        assertThat(told("LATE")).containsExactly("shift@sundrava.example");
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), Instant.now());
        lateCases.run(id);
        assertThat(told("LATE")).as("somebody has it").hasSize(1);
    }

    @Test
    void whatItsTeamReturnsIsToldUntilSomebodyDealsWithIt() {
        rule("Returned", Happening.RETURNED, null, false, address("desk@sundrava.example", 0), line(1, 10));
        critical();
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), Instant.now());
        transaction.executeWithoutResult(
                status -> cases.returned(one.id(), "Freight Systems", "not ours", Instant.now()));
        assertThat(told("RETURNED")).containsExactly("desk@sundrava.example");
        assertThat(jdbc.sql("select body from delivery where case_id = :id and about = 'RETURNED'")
                        .param("id", one.id())
                        .query(String.class)
                        .single())
                .contains("It was handed off and came back: not ours");
        var again = theCase(host);
        cases.take(again.id(), again.version(), person("other"), Instant.now());
        later(10);
        assertThat(told("RETURNED")).hasSize(1);
    }

    @Test
    void whoIsToldByTwoRulesThatItIsOverHearsSoOnce() {
        rule("Over", Happening.OVER, null, false, line(0, 0));
        critical();
        cleared(guard, host, minute + 1, 9);
        assertThat(told("OVER")).containsExactly(mail(first));
    }

    @Test
    void whatIsOverIsToldByTheRuleForThatToThoseWhoKnewNothingOfIt() {
        rule("Over", Happening.OVER, null, false, line(1, 0));
        critical();
        cleared(guard, host, minute + 1, 9);
        assertThat(told("OVER")).containsExactlyInAnyOrder(mail(first), mail(second));
    }

    @Test
    void whereNobodyCanBeReachedLeadsHearOfItAndThePageSaysSo() {
        var lead = person("lead");
        everybody.reach(lead, "joel@sundrava.example", "");
        var bare = component("host");
        var team = estate.team(bare.team()).orElseThrow();
        estate.change(new Estate.Team(team.id(), team.key(), team.name(), ""));
        raised(guard, bare, minute, CRITICAL, 9);
        var one = theCase(bare);
        assertThat(wholeLogOf(one))
                .anyMatch(words -> words.startsWith("Nobody was told: nobody is on duty in the first line of"));
        assertThat(now.now()).anyMatch(it -> it.words().startsWith("nobody took"));
        assertThat(jdbc.sql("select recipient from delivery where case_id = :id and about = 'UNHEARD'")
                        .param("id", one.id())
                        .query(String.class)
                        .list())
                .containsExactly("joel@sundrava.example");
        everybody.reach(lead, "", "");
    }

    @Test
    void whatIsSettledByMistakeGoesOnWhereItWas() {
        critical();
        var one = theCase(host);
        long entry = cases.settle(
                one.id(),
                one.version(),
                person("analyst"),
                app.morvet.core.cases.SettleReason.MENDED,
                "",
                Instant.now());
        cases.undo(entry, person("analyst"), Instant.now());
        later(15);
        assertThat(told("OPENED")).containsExactly(mail(first), mail(second));
    }

    @Test
    void theLastRuleStaysWhatItIs() {
        var last = rulesOfCallOuts.all().getLast();
        assertThat(last.catches()).isTrue();
        var lead = person("lead");
        assertThatThrownBy(() -> rulesOfCallOuts.delete(last.id(), last.version(), lead))
                .hasMessageContaining("the last rule stays");
        var narrower = rulesOfCallOuts
                .byId(rule("Narrow", Happening.OPENED, null, false, line(0, 0)))
                .orElseThrow();
        assertThatThrownBy(() -> rulesOfCallOuts.keep(
                        new CallOutRules.Stored(last.id(), narrower.rule(), true, last.version()), lead))
                .hasMessageContaining("takes whatever no other rule does");
        assertThat(rulesOfCallOuts.all().getLast().id()).isEqualTo(last.id());
    }

    @Test
    void ofTwoWhoChangeOneAtOnceTheSecondIsToldSo() {
        long id = rule("Mine", Happening.OPENED, null, false, line(0, 0));
        var seen = rulesOfCallOuts.byId(id).orElseThrow();
        rulesOfCallOuts.keep(seen, person("lead"));
        assertThatThrownBy(() -> rulesOfCallOuts.keep(seen, person("lead")))
                .hasMessageContaining("somebody else changed");
        assertThatThrownBy(() -> rulesOfCallOuts.delete(id, seen.version(), person("lead")))
                .hasMessageContaining("somebody else changed");
    }

    /** A rule that is deleted takes nothing new; what it began goes on. */
    @Test
    void whatADeletedRuleBeganGoesOn() {
        long id = rule("Gone", Happening.OPENED, null, false, line(1, 0), line(0, 5));
        critical();
        rulesOfCallOuts.delete(id, 1, person("lead"));
        later(5);
        assertThat(told("OPENED")).containsExactly(mail(second), mail(first));
    }

    @Test
    void whatIsKeptIsReadAsItWas() {
        long id = rule(
                "All of it",
                Happening.OPENED,
                Duration.ofMinutes(20),
                true,
                line(0, 0),
                address("night@sundrava.example", 15),
                new Step(Duration.ofMinutes(5), new Whom.Role("LEAD"), List.of(Way.TEXT, Way.MAIL)));
        var kept = rulesOfCallOuts.byId(id).orElseThrow().rule();
        assertThat(CallOutRuleJson.read(kept.name(), CallOutRuleJson.write(kept)))
                .isEqualTo(kept);
        assertThat(CallOutRuleForm.read(CallOutRuleForm.fields(kept), ZONE)).isEqualTo(kept);
        var hours = new app.morvet.core.guard.Hours(
                java.util.EnumSet.of(java.time.DayOfWeek.MONDAY),
                java.time.LocalTime.of(8, 0),
                java.time.LocalTime.of(16, 30),
                ZONE);
        var byDay = new app.morvet.core.callouts.CallOutRule(
                "Day", kept.when(), kept.from(), kept.scope(), hours, kept.steps(), null, false, false);
        assertThat(CallOutRuleJson.read("Day", CallOutRuleJson.write(byDay))).isEqualTo(byDay);
        assertThat(CallOutRuleForm.read(CallOutRuleForm.fields(byDay), ZONE)).isEqualTo(byDay);
    }

    private void aDesk() {
        HandoffTest.connect(desks);
    }

    /** A rule may open the ticket by itself: once, with what Morvet knows; and nobody is told further. */
    @Test
    void aStepMayHandTheCaseOff() {
        rule(
                "Ticket",
                Happening.OPENED,
                null,
                false,
                line(0, 0),
                new Step(Duration.ofMinutes(10), new Whom.Desk(Whom.OWNER), List.of()),
                line(1, 10));
        aDesk();
        critical();
        later(10);
        var one = theCase(host);
        assertThat(one.state()).isEqualTo(app.morvet.core.cases.CaseState.HANDED_OFF);
        assertThat(one.progress().takenBy()).isNull();
        assertThat(wholeLogOf(one)).contains("A rule handed the case off to Team of " + host.key());
        assertThat(jdbc.sql("select title from handoff where case_id = :id and made_by is null")
                        .param("id", one.id())
                        .query(String.class)
                        .list())
                .containsExactly("heat is 9.0 on " + host.key());
        later(10);
        assertThat(told("OPENED")).as("its team has it").containsExactly(mail(first), "Team of " + host.key());
        // It comes back: whoever is next is told, and no second ticket is made.
        transaction.executeWithoutResult(status -> cases.returned(one.id(), "Team", "not ours", Instant.now()));
        later(10);
        assertThat(told("OPENED")).containsExactly(mail(first), "Team of " + host.key(), mail(second));
        assertThat(jdbc.sql("select count(*) from handoff where case_id = :id")
                        .param("id", one.id())
                        .query(Integer.class)
                        .single())
                .isEqualTo(1);
    }

    /** Its team lets it lie: somebody hears of that, until it is accepted. */
    @Test
    void whatIsNotAcceptedInTimeIsToldUntilItIs() {
        rule("Lies", Happening.NOT_ACCEPTED, null, false, line(1, 0), line(0, 30));
        aDesk();
        critical();
        var team = estate.team(host.team()).orElseThrow();
        transaction.executeWithoutResult(status -> handoffs.handOff(theCase(host), team, Instant.now()));
        var id = jdbc.sql("select id from handoff where case_id = :id")
                .param("id", caseId())
                .query(UUID.class)
                .single();
        transaction.executeWithoutResult(status -> notAccepted.run(id, Instant.now()));
        assertThat(told("NOT_ACCEPTED")).containsExactly(mail(second));
        assertThat(courses.running(caseId()))
                .extracting(CourseStore.Course::happened)
                .contains(Happening.NOT_ACCEPTED);
        handoffs.follow(id, new TicketReading.Ticket("T-" + host.key(), HandoffState.ACCEPTED, ""), Instant.now());
        assertThat(courses.running(caseId()))
                .extracting(CourseStore.Course::happened)
                .doesNotContain(Happening.NOT_ACCEPTED);
        transaction.executeWithoutResult(status -> notAccepted.run(id, Instant.now()));
        assertThat(told("NOT_ACCEPTED")).as("it is accepted").hasSize(1);
    }

    /** Alerts are folded into a case just as somebody is to be told of it: the one waits for the other, and not each for each. */
    @Test
    void whoTellsAndWhoFoldsDoNotWaitForEachOther() throws Exception {
        critical();
        for (var what : List.of("delivery set made_at = made_at", "call_out_course set at = at"))
            jdbc.sql("update " + what + " - interval '15 min' where case_id = :id")
                    .param("id", caseId())
                    .update();
        var locked = new CountDownLatch(1);
        long id = caseId();
        var folding = CompletableFuture.runAsync(() -> transaction.executeWithoutResult(status -> {
            cases.lock(id);
            locked.countDown();
            // Long enough for the other to have come as far as it can.
            jdbc.sql("select pg_sleep(0.5)").query((row, number) -> 1).list();
            courses.running(id);
        }));
        locked.await();
        callOuts.run("" + id);
        folding.get(30, TimeUnit.SECONDS);
        assertThat(told("OPENED")).containsExactly(mail(first), mail(second));
    }
}
