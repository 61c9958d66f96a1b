package app.morvet.core.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static app.morvet.core.callouts.CallOutRules.NAMES;
import static app.morvet.core.callouts.CallOutRules.again;
import static app.morvet.core.callouts.CallOutRules.line;
import static app.morvet.core.callouts.CallOutRules.occasion;
import static app.morvet.core.callouts.CallOutRules.opened;
import static app.morvet.core.callouts.CallOutRules.team;
import static app.morvet.core.callouts.CallOutRules.when;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Hours;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Which rule takes what happened, and how a rule reads. */
class CallOutRuleTest {
    private static final CallOutRule CRITICALS = opened(line(0, 0));
    private static final Scope FREIGHT = Scope.ALL.ofApplication("freight");
    private static final Scope LEDGER = Scope.ALL.ofApplication("ledger");

    @ParameterizedTest
    @CsvSource(
            nullValues = "-",
            value = {
                // from, severity, before, takes
                "CRITICAL, CRITICAL, -,        true",
                "CRITICAL, WARNING,  -,        false",
                "CRITICAL, CRITICAL, WARNING,  true",
                "CRITICAL, CRITICAL, CRITICAL, false",
                "WARNING,  CRITICAL, WARNING,  false",
                "WARNING,  CRITICAL, NOTICE,   true",
                "WARNING,  WARNING,  -,        true",
                "NOTICE,   CRITICAL, NOTICE,   false",
            })
    void whatCameToBeSoBadIsTakenOnce(
            app.morvet.core.alert.Severity from,
            app.morvet.core.alert.Severity severity,
            app.morvet.core.alert.Severity before,
            boolean takes) {
        var rule = opened(from, Scope.ALL, false, line(0, 0));
        assertThat(rule.takes(occasion(Happening.OPENED, severity, before))).isEqualTo(takes);
    }

    @Test
    void aRuleTakesWhatItIsAboutAndNothingElse() {
        assertThat(opened(CRITICAL, FREIGHT, false, line(0, 0)).takes(occasion(Happening.OPENED, CRITICAL, null)))
                .isTrue();
        assertThat(opened(CRITICAL, LEDGER, false, line(0, 0)).takes(occasion(Happening.OPENED, CRITICAL, null)))
                .isFalse();
        assertThat(CRITICALS.takes(occasion(Happening.RETURNED, CRITICAL, null)))
                .isFalse();
        assertThat(when(Happening.RETURNED, CRITICALS).takes(occasion(Happening.RETURNED, CRITICAL, CRITICAL)))
                .as("what is returned is told however long it has been so bad")
                .isTrue();
    }

    @Test
    void aRuleMayHaveHours() {
        var office = new Hours(
                EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                LocalTime.of(8, 0),
                LocalTime.of(16, 0),
                ZoneId.of("Europe/Helsinki"));
        var byDay = new CallOutRule(
                "Day", Happening.OPENED, CRITICAL, Scope.ALL, office, List.of(line(0, 0)), null, true, false);
        assertThat(byDay.takes(occasion(Happening.OPENED, CRITICAL, null)))
                .as("at 03:00")
                .isFalse();
        assertThat(byDay.sentence(UnaryOperator.identity(), NAMES))
                .startsWith(
                        "When a critical case of each component of the estate opens on weekdays from 08:00 to 16:00, tell ");
    }

    @Test
    void theFirstThatTakesItAndThoseAfterItWhileTheyGoOn() {
        var goesOn = opened(CRITICAL, FREIGHT, true, line(0, 0));
        var other = opened(CRITICAL, LEDGER, false, line(0, 0));
        var last = opened(team(0));
        var never = opened(line(1, 0));
        assertThat(CallOutRule.taking(
                        List.of(other, goesOn, last, never),
                        UnaryOperator.identity(),
                        occasion(Happening.OPENED, CRITICAL, null)))
                .containsExactly(goesOn, last);
        assertThat(CallOutRule.taking(
                        List.of(other, last), UnaryOperator.identity(), occasion(Happening.OPENED, NOTICE, null)))
                .isEmpty();
    }

    @Test
    void itReadsAsASentence() {
        var rule = new CallOutRule(
                "Tier 1 at night",
                Happening.OPENED,
                CRITICAL,
                new Scope("", "", 1, "", "", "", "", false),
                null,
                List.of(
                        line(0, 0),
                        new Step(Duration.ofMinutes(15), new Whom.OnDuty(3, 1), List.of(Way.MAIL)),
                        new Step(Duration.ofMinutes(30), new Whom.Role("LEAD"), List.of(Way.TEXT)),
                        new Step(Duration.ofMinutes(5), new Whom.Outside(4), List.of())),
                Duration.ofMinutes(20),
                true,
                false);
        assertThat(rule.sentence(UnaryOperator.identity(), NAMES))
                .isEqualTo(
                        "When a critical case of each tier 1 component of the estate opens, tell the first line of its team by text"
                                + " message, else by mail; if nobody has it after 15 min, the second line of Freight Systems by mail; if nobody"
                                + " has it after 30 min, all who are lead by text message; if nobody has it after 5 min, the room of the night."
                                + " Tell them all again every 20 min until somebody has it. Tell all who were told when it is over.");
        assertThat(opened(WARNING, FREIGHT, true, line(0, 10)).sentence(UnaryOperator.identity(), NAMES))
                .isEqualTo(
                        "When a case that is warning or worse of each component of freight opens, tell the first line of its team by"
                                + " text message, else by mail, unless somebody has it within 10 min. Tell all who were told when it is over."
                                + " Ask the rules after this one as well.");
    }

    @Test
    void aDigestReadsAsOneAndTellsAllAtOneTime() {
        var morning = new Digest(Digest.Every.DAY, DayOfWeek.MONDAY, LocalTime.of(7, 0));
        var rule = new CallOutRule(
                "Morning",
                Happening.OPENED,
                WARNING,
                FREIGHT,
                null,
                List.of(line(0, 0), team(0)),
                null,
                true,
                false,
                morning);
        assertThat(rule.sentence(UnaryOperator.identity(), NAMES))
                .isEqualTo(
                        "When a case that is warning or worse of each component of freight opens, tell every day at 07:00 in one message,"
                                + " the first line of its team by text message, else by mail, and all of its team by mail.");
        assertThatThrownBy(() -> new CallOutRule(
                        "M", Happening.OPENED, WARNING, FREIGHT, null, List.of(line(0, 5)), null, true, false, morning))
                .hasMessageStartingWith("a digest tells all at one time");
    }

    @Test
    void aStepMayHandItOff() {
        var desk = new Step(Duration.ofMinutes(20), new Whom.Desk(Whom.OWNER), List.of());
        assertThat(opened(line(0, 0), desk).sentence(UnaryOperator.identity(), NAMES))
                .contains("; if nobody has it after 20 min, hand it off to its team.");
        var atOnce = new Step(Duration.ZERO, new Whom.Desk(3), List.of());
        assertThat(opened(atOnce).sentence(UnaryOperator.identity(), NAMES))
                .startsWith(
                        "When a critical case of each component of the estate opens, hand it off to Freight Systems.");
    }

    @Test
    void whatCannotBeSaysWhy() {
        assertThatThrownBy(() -> opened()).hasMessage("a rule has a step at least: say who is told");
        assertThatThrownBy(() -> opened(line(0, 0), line(1, 0)))
                .hasMessage("say how long whoever is told before has to take it");
        assertThatThrownBy(() -> opened(line(0, 0), line(1, 1441))).hasMessageContaining("waits for 1 day at most");
        assertThatThrownBy(() -> again(CRITICALS, 4)).hasMessage("people are told again every 5 min at most");
        assertThatThrownBy(() -> when(Happening.OVER, again(CRITICALS, 20))).hasMessageContaining("told once");
        assertThatThrownBy(() -> new Step(Duration.ZERO, new Whom.One(7), List.of()))
                .hasMessage("say by which way they are told");
        assertThatThrownBy(() -> line(3, 0)).hasMessage("a rota has at most 3 lines");
        var many = new Step[9];
        java.util.Arrays.fill(many, line(0, 5));
        assertThatThrownBy(() -> opened(many)).hasMessage("a rule has 8 steps at most");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "duty 0 0",
                "duty 3 1",
                "team 0",
                "team 3",
                "person 7",
                "role LEAD",
                "mail night@sundrava.example",
                "outside 4",
                "desk 0",
                "desk 3"
            })
    void whomIsKeptAsAText(String code) {
        assertThat(Whom.read(code).code()).isEqualTo(code);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "duty",
                "duty x 0",
                "duty 0 9",
                "mail nobody",
                "person -1",
                "crew 3",
                "person 9999999999999999999"
            })
    void whatIsNobodyIsRefused(String code) {
        assertThatThrownBy(() -> Whom.read(code)).isInstanceOf(IllegalArgumentException.class);
    }

    private static CallOutRule news(Happening what, Scope scope, Step... steps) {
        return new CallOutRule("News", what, NOTICE, scope, null, List.of(steps), null, false, false);
    }

    /** What is no case is taken however bad it is, by what it is about; what is about no part of the estate by all. */
    @Test
    void whatIsNoCaseIsTakenByWhatItIsAbout() {
        var lead = new Step(Duration.ZERO, new Whom.Role("LEAD"), List.of(Way.MAIL));
        assertThat(news(Happening.WINDOW, FREIGHT, lead).takes(occasion(Happening.WINDOW, NOTICE, null)))
                .isTrue();
        assertThat(news(Happening.WINDOW, LEDGER, lead).takes(occasion(Happening.WINDOW, NOTICE, null)))
                .isFalse();
        assertThat(news(Happening.WINDOW, FREIGHT, lead).takes(occasion(Happening.OPENED, CRITICAL, null)))
                .isFalse();
        var setup = new CallOutRule.Occasion(Happening.SETUP, NOTICE, null, List.of(), CallOutRules.NIGHT);
        assertThat(news(Happening.SETUP, Scope.ALL, lead).takes(setup)).isTrue();
    }

    @Test
    void whatIsNoCaseReadsAsASentence() {
        var lead = new Step(Duration.ZERO, new Whom.Role("LEAD"), List.of(Way.MAIL));
        var night = new Step(Duration.ZERO, new Whom.Address("night@sundrava.example"), List.of(Way.MAIL));
        assertThat(news(Happening.CHANGED, FREIGHT, lead, night).sentence(UnaryOperator.identity(), NAMES))
                .isEqualTo(
                        "When each component of freight is changed or deployed to, tell all who are lead by mail, and"
                                + " night@sundrava.example by mail.");
        assertThat(news(Happening.UNDELIVERED, Scope.ALL, lead).sentence(UnaryOperator.identity(), NAMES))
                .isEqualTo("When a message cannot be delivered, tell all who are lead by mail.");
    }

    @Test
    void whatIsNoCaseHasNobodyToTakeIt() {
        var lead = new Step(Duration.ZERO, new Whom.Role("LEAD"), List.of(Way.MAIL));
        var later = new Step(Duration.ofMinutes(15), new Whom.Role("LEAD"), List.of(Way.MAIL));
        assertThatThrownBy(() -> news(Happening.NEW, FREIGHT, lead, later)).hasMessageContaining("at once and once");
        assertThatThrownBy(() -> news(Happening.NEW, FREIGHT, new Step(Duration.ZERO, new Whom.Desk(0), List.of())))
                .hasMessageContaining("handed off to nobody");
        assertThatThrownBy(() -> news(Happening.SETUP, FREIGHT, lead)).hasMessageContaining("no part of the estate");
        assertThatThrownBy(() -> news(Happening.SETUP, Scope.ALL, line(0, 0))).hasMessageContaining("nobody's own");
    }
}
