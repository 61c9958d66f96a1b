package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.callouts.Wishes;
import app.morvet.core.estate.Scope;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What is not urgent is gathered and told in one message; nothing where nothing happened. */
class CallOutDigestsTest extends ToldPeople {
    private static final Digest MORNING = new Digest(Digest.Every.DAY, DayOfWeek.MONDAY, LocalTime.of(7, 0));

    @Autowired
    private CallOutDigests digests;

    @Autowired
    private WishStore wishes;

    private Subject other;
    private long guard;
    private int minute;
    private long rule;
    private long first;

    @BeforeEach
    void aDigestInTheMorning() {
        other = component("host");
        host = component("host");
        first = onDuty(0, "Otso", "");
        guard = guard("warning");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
        rule = digestOver(host);
    }

    private long digestOver(Subject subject) {
        var step = new Step(Duration.ZERO, new Whom.OnDuty(Whom.OWNER, 0), List.of(Way.MAIL));
        var also = new Step(Duration.ZERO, new Whom.Address("morning@sundrava.example"), List.of(Way.MAIL));
        var morning = new CallOutRule(
                "Morning of " + subject.key(),
                Happening.OPENED,
                WARNING,
                Scope.ALL.named(subject.key()),
                null,
                List.of(step, also),
                null,
                false,
                true,
                MORNING);
        return rulesOfCallOuts.keep(new CallOutRules.Stored(0, morning, false, 0), null);
    }

    private List<Delivery> told() {
        return jdbc
                .sql("select id from delivery where rule_id = :rule and about = 'DIGEST' order by recipient")
                .param("rule", rule)
                .query(java.util.UUID.class)
                .list()
                .stream()
                .map(id -> deliveries.byId(id).orElseThrow())
                .toList();
    }

    @Autowired
    private DeliveryStore deliveries;

    @Test
    void whatHappenedIsToldInOneMessageWithWhereItStands() {
        raised(guard, host, minute, WARNING, 3);
        assertThat(told()).as("it waits for the morning").isEmpty();
        assertThat(jdbc.sql(
                                "select execution_time from scheduled_tasks where task_name = 'call-out-digest' and task_instance = :id")
                        .param("id", "" + rule)
                        .query((row, number) -> row.getTimestamp(1).toInstant())
                        .single())
                .isEqualTo(MORNING.next(at(minute), ZONE));
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), Instant.now());
        digests.run("" + rule);
        assertThat(told())
                .extracting(Delivery::recipient)
                .containsExactlyInAnyOrder(mail(first), "morning@sundrava.example");
        var mail = told().getFirst();
        assertThat(mail.subject()).isEqualTo("Morning of " + host.key() + ": 1 case");
        assertThat(mail.body())
                .contains("warning opens: heat is 3.0 on " + host.key())
                .contains("Annika Ruuth has it")
                .contains("/cases/" + one.id());
    }

    @Test
    void whereNothingHappenedNothingIsTold() {
        digests.run("" + rule);
        assertThat(told()).isEmpty();
        raised(guard, other, minute, CRITICAL, 9);
        digests.run("" + rule);
        assertThat(told()).as("what the rule does not take").isEmpty();
    }

    @Test
    void whatWasToldIsNotToldAgain() {
        raised(guard, host, minute, WARNING, 3);
        digests.run("" + rule);
        assertThat(told()).hasSize(2);
        digests.run("" + rule);
        assertThat(told()).hasSize(2);
        cleared(guard, host, minute + 1, 3);
        raised(guard, host, minute + 2, WARNING, 3);
        assertThat(jdbc.sql("select happened from call_out_digest where rule_id = :rule")
                        .param("rule", rule)
                        .query(String.class)
                        .list())
                .as("it came back")
                .containsOnly("OPENED");
    }

    /** What is read in the morning leaves those who are called at night their turn. */
    @Test
    void aCriticalOneIsToldAtOnceByTheLastRuleAllTheSame() {
        raised(guard, host, minute, CRITICAL, 9);
        assertThat(told("OPENED")).containsExactly(mail(first));
        digests.run("" + rule);
        assertThat(told().getFirst().subject()).endsWith("1 case, 1 of them critical");
    }

    private void quietNow() {
        var now = ZonedDateTime.now(ZONE).truncatedTo(ChronoUnit.MINUTES);
        wishes.keep(
                first,
                new Wishes(
                        null, now.minusHours(1).toLocalTime(), now.plusHours(1).toLocalTime(), null, true));
    }

    private Instant triedAt(String recipient) {
        return told().stream()
                .filter(one -> one.recipient().equals(recipient))
                .map(Delivery::nextTry)
                .findFirst()
                .orElseThrow();
    }

    /** Whoever is quiet, or whose team may not be called, reads it afterwards. */
    @Test
    void whoIsQuietReadsItWhenTheyAreNotAnyMore() {
        quietNow();
        raised(guard, host, minute, WARNING, 3);
        digests.run("" + rule);
        assertThat(triedAt(mail(first))).isAfter(Instant.now().plusSeconds(3000));
        assertThat(triedAt("morning@sundrava.example")).isBefore(Instant.now().plusSeconds(1));
    }

    @Test
    void whatIsCriticalInItDoesNotWait() {
        quietNow();
        raised(guard, host, minute, CRITICAL, 9);
        digests.run("" + rule);
        assertThat(triedAt(mail(first))).isBefore(Instant.now().plusSeconds(1));
    }
}
