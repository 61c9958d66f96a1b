package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.duty.CallHours;
import app.morvet.core.estate.Tier;
import app.morvet.ground.duty.TeamHours;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A team is called in the hours that it agreed to for what is in trouble. */
class TeamHoursTest extends ToldPeople {
    @Autowired
    private TeamHours hours;

    @Autowired
    private DeliveryStore deliveries;

    @Autowired
    private DeliverySending sending;

    private long first;
    private long guard;
    private int minute;

    @BeforeEach
    void somebodyOnDuty() {
        host = component("host");
        first = onDuty(0, "Otso", "");
        guard = guard("hours");
        minute = (int) Duration.between(T, Instant.now()).toMinutes();
    }

    private int tier() {
        return estate.tierOf(estate.component(host.id())).number();
    }

    /** As a lead sets them: in two hours, for an hour. */
    private String closedNow(int tier) throws Exception {
        var from = LocalTime.from(
                ZonedDateTime.now(ZONE).plusHours(2).withSecond(0).withNano(0));
        var sent = Map.of(
                "seen",
                hours.of(host.team()).toString(),
                "days" + tier,
                "daily",
                "hoursFrom" + tier,
                "" + from,
                "hoursTo" + tier,
                "" + from.plusHours(1));
        var path = "/estate/teams/team-" + host.key() + "/hours";
        assertThat(loggedIn("lead").post(path, sent).statusCode()).isEqualTo(302);
        return path;
    }

    private void byDutyThenDesk() {
        ruleFrom(
                WARNING,
                "Hours",
                Happening.OPENED,
                null,
                false,
                new Step(Duration.ZERO, new Whom.OnDuty(Whom.OWNER, 0), List.of(Way.MAIL)),
                new Step(Duration.ofMinutes(15), new Whom.Address("night@sundrava.example"), List.of(Way.MAIL)));
    }

    @Test
    void ofWhatIsCriticalTheNextIsToldAtOnceAndThePageSaysWhy() throws Exception {
        closedNow(tier());
        byDutyThenDesk();
        raised(guard, host, minute, CRITICAL, 9);
        assertThat(told("OPENED")).containsExactly("night@sundrava.example");
        assertThat(loggedIn("analyst")
                        .page("/callouts/who?severity=CRITICAL&pattern=" + host.key())
                        .text())
                .contains("Team of %s may be called for tier %d every day from ".formatted(host.key(), tier()));
        assertThat(loggedIn("analyst").page("/estate/teams/team-" + host.key()).text())
                .contains("Tier %d every day from ".formatted(tier()), "Other tiers at all times");
    }

    @Test
    void whatIsLessWaitsUntilItsHoursBeginAndIsNotToldWhereItIsOverByThen() throws Exception {
        closedNow(tier());
        byDutyThenDesk();
        raised(guard, host, minute, WARNING, 9);
        var waits = deliveries.ofCase(caseId()).getFirst();
        assertThat(waits.recipient()).isEqualTo(mail(first));
        assertThat(waits.state()).isEqualTo(Delivery.State.WAITING);
        assertThat(Duration.between(Instant.now(), waits.nextTry()))
                .isBetween(Duration.ofMinutes(118), Duration.ofMinutes(121));
        cleared(guard, host, minute + 1, 9);
        deliveries.ofCase(caseId()).forEach(one -> sending.run(one.id().toString()));
        assertThat(deliveries.ofCase(caseId())).isEmpty();
    }

    @Test
    void ofAnotherTierItIsCalledAtAnyTime() throws Exception {
        closedNow(tier() == 1 ? 2 : 1);
        byDutyThenDesk();
        raised(guard, host, minute, CRITICAL, 9);
        assertThat(told("OPENED")).containsExactly(mail(first));
    }

    @Test
    void whatCannotBeIsSaidAndNothingIsLost() throws Exception {
        var path = closedNow(4);
        var lead = loggedIn("lead");
        var wrong = app.morvet.Browser.shown(
                lead.post(path, Map.of("days2", "weekdays", "hoursFrom2", "late", "hoursTo2", "17:00")), 422);
        assertThat(wrong.select(".refusal").text()).contains("\"late\" is no time of day such as 08:00");
        assertThat(wrong.select("select[name=days2] option[selected]").attr("value"))
                .isEqualTo("weekdays");
        assertThat(hours.of(host.team()).byTier()).containsOnlyKeys(new Tier(4));
        assertThat(loggedIn("analyst").post(path, Map.of()).statusCode()).isEqualTo(403);
        var overtaken = app.morvet.Browser.shown(lead.post(path, Map.of("seen", "At all times.")), 422);
        assertThat(overtaken.select(".refusal").text())
                .startsWith("Somebody else changed these hours meanwhile to: Tier 4");
        var seen = lead.page(path).select("input[name=seen]").attr("value");
        assertThat(lead.post(path, Map.of("seen", seen)).statusCode()).isEqualTo(302);
        assertThat(hours.of(host.team())).isEqualTo(CallHours.ALWAYS);
        assertThat(lead.get("/estate/teams/nobody/hours").statusCode()).isEqualTo(404);
    }
}
