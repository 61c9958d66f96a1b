package app.morvet.core.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static app.morvet.core.callouts.CallOutRules.GATE;
import static app.morvet.core.callouts.CallOutRules.again;
import static app.morvet.core.callouts.CallOutRules.at;
import static app.morvet.core.callouts.CallOutRules.line;
import static app.morvet.core.callouts.CallOutRules.opened;
import static app.morvet.core.callouts.CallOutRules.team;
import static app.morvet.core.callouts.CallOutRules.when;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.CaseStory.Event;
import app.morvet.core.callouts.CaseStory.What;
import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Whom rules would have told of what happened. */
class RehearsalTest {
    private static final CallOutRule RULE = opened(line(0, 0), line(1, 10), team(20));
    private static final List<String> WHO = List.of("otso", "linnea", "team");

    private static CaseStory story(Event... events) {
        return new CaseStory(Arrays.asList(events));
    }

    private static Event turned(app.morvet.core.alert.Severity severity, int minute) {
        return Event.turned(severity, at(minute));
    }

    private static Event of(What what, int minute) {
        return Event.of(what, at(minute));
    }

    private static Rehearsal.Told told(List<CallOutRule> rules, CaseStory story) {
        return Rehearsal.of(
                rules,
                story,
                List.of(GATE),
                severity -> Duration.ofMinutes(15),
                (rule, step, at) -> List.of(WHO.get(step)),
                ZoneOffset.UTC,
                at(24 * 60));
    }

    /** {@code otso 0, linnea 10} */
    private static String messages(List<CallOutRule> rules, CaseStory story) {
        return String.join(
                ", ",
                told(rules, story).messages().stream()
                        .map(one -> one.call().who() + " "
                                + Duration.between(at(0), one.at()).toMinutes())
                        .toList());
    }

    private static String messages(CaseStory story) {
        return messages(List.of(RULE), story);
    }

    @Test
    void whatSomebodyTakesInTimeIsToldToTheFirst() {
        assertThat(messages(story(turned(CRITICAL, 0), of(What.TAKEN, 7)))).isEqualTo("otso 0");
        assertThat(messages(story(turned(CRITICAL, 0), of(What.TAKEN, 12)))).isEqualTo("otso 0, linnea 10");
        assertThat(messages(story(turned(CRITICAL, 0)))).isEqualTo("otso 0, linnea 10, team 30");
    }

    @Test
    void whatIsOverIsToldToNobodyFurtherAndAnewWhenItComesBack() {
        assertThat(messages(story(turned(CRITICAL, 0), of(What.OVER, 5), turned(CRITICAL, 60), of(What.OVER, 62))))
                .isEqualTo("otso 0, otso 60");
    }

    @Test
    void whatEasesAndRisesIsToldOnce() {
        assertThat(messages(story(turned(WARNING, 0), turned(CRITICAL, 3), turned(CRITICAL, 5), of(What.TAKEN, 6))))
                .isEqualTo("otso 3");
    }

    @Test
    void whoTakesItAndGivesItBackLetsItGoOn() {
        assertThat(messages(story(turned(CRITICAL, 0), of(What.TAKEN, 5), of(What.FREE, 50), of(What.HANDED_OFF, 55))))
                .isEqualTo("otso 0, linnea 50");
    }

    @Test
    void quietIsNoOwner() {
        assertThat(messages(story(turned(CRITICAL, 0), new Event(at(4), What.QUIET, null, at(64)), of(What.TAKEN, 70))))
                .isEqualTo("otso 0, linnea 64");
    }

    @Test
    void whatIsNotTakenInTimeIsToldByTheRuleForThat() {
        var late = when(Happening.LATE, opened(line(1, 0)));
        var rules = List.of(opened(line(0, 0)), late);
        assertThat(messages(List.of(late), story(turned(CRITICAL, 0)))).isEqualTo("otso 15");
        assertThat(messages(rules, story(turned(CRITICAL, 0), of(What.TAKEN, 14))))
                .isEqualTo("otso 0");
        assertThat(messages(rules, story(turned(CRITICAL, 0), of(What.OVER, 14))))
                .isEqualTo("otso 0");
    }

    @Test
    void whatIsReturnedAndWhatIsOverHaveRulesOfTheirOwn() {
        var returned = when(Happening.RETURNED, opened(line(0, 0), line(1, 10)));
        var over = when(Happening.OVER, opened(line(0, 0)));
        var whole = story(
                turned(CRITICAL, 0),
                of(What.HANDED_OFF, 3),
                of(What.RETURNED, 40),
                of(What.TAKEN, 45),
                of(What.OVER, 90));
        assertThat(messages(List.of(returned), whole)).isEqualTo("otso 40");
        assertThat(messages(List.of(over), whole)).isEqualTo("otso 90");
    }

    @Test
    void toldAgainForADayAtMost() {
        var rule = again(opened(line(0, 0)), 240);
        assertThat(messages(List.of(rule), story(turned(CRITICAL, 0))))
                .isEqualTo("otso 0, otso 240, otso 480, otso 720, otso 960, otso 1200");
    }

    @Test
    void criticalCasesOfWhichNobodyWouldHaveHeardAreNamed() {
        var ledger = opened(CRITICAL, Scope.ALL.ofApplication("ledger"), false, line(0, 0));
        assertThat(told(List.of(ledger), story(turned(WARNING, 0), turned(CRITICAL, 8)))
                        .untold())
                .containsExactly(at(8));
        assertThat(told(List.of(ledger), story(turned(WARNING, 0))).untold()).isEmpty();
        assertThat(told(List.of(ledger, RULE), story(turned(CRITICAL, 8))).untold())
                .isEmpty();
        assertThat(Rehearsal.of(
                                List.of(RULE),
                                story(turned(CRITICAL, 8)),
                                List.of(GATE),
                                severity -> Duration.ofMinutes(15),
                                (rule, step, at) -> List.of(),
                                ZoneOffset.UTC,
                                at(60))
                        .untold())
                .as("where nobody is on duty, nobody hears of it either")
                .containsExactly(at(8));
    }

    /** What a digest tells in the morning is not heard of at night. */
    @Test
    void aDigestTellsAtItsTimeAndIsNoCallOut() {
        var digest = new CallOutRule(
                "Morning",
                Happening.OPENED,
                WARNING,
                Scope.ALL,
                null,
                List.of(line(0, 0)),
                null,
                false,
                true,
                new Digest(Digest.Every.DAY, java.time.DayOfWeek.MONDAY, java.time.LocalTime.of(5, 0)));
        var whole = story(turned(WARNING, 0), turned(CRITICAL, 20), of(What.TAKEN, 25));
        assertThat(messages(List.of(digest), whole)).as("at 05:00").isEqualTo("otso 240");
        assertThat(told(List.of(digest), whole).untold()).containsExactly(at(20));
        assertThat(messages(List.of(digest, RULE), whole)).isEqualTo("otso 20, otso 240");
        assertThat(told(List.of(digest, RULE), whole).untold()).isEmpty();
    }

    @Test
    void whereItStandsFollowsFromWhatHappened() {
        var whole = story(
                turned(CRITICAL, 0),
                of(What.TAKEN, 5),
                of(What.HANDED_OFF, 8),
                of(What.RETURNED, 20),
                of(What.OVER, 30));
        assertThat(whole.at(at(4))).isEqualTo(Standing.NEW);
        assertThat(whole.at(at(6)).taken()).isTrue();
        assertThat(whole.at(at(9)).handedOff()).isTrue();
        assertThat(whole.at(at(25)).returned()).isTrue();
        assertThat(whole.at(at(30)).over()).isTrue();
    }

    /** In whatever order it is heard what happened, the same would have been told. */
    @Property(tries = 200)
    void theOrderInWhichItIsHeardMakesNoDifference(@ForAll long seed) {
        var random = new Random(seed);
        var events = new java.util.ArrayList<Event>();
        var kinds = What.values();
        for (int minute = 0; minute < 120; minute += 1 + random.nextInt(20)) {
            var what = kinds[random.nextInt(kinds.length)];
            events.add(
                    switch (what) {
                        case TURNED -> turned(random.nextBoolean() ? CRITICAL : WARNING, minute);
                        case QUIET -> new Event(at(minute), What.QUIET, null, at(minute + random.nextInt(60)));
                        default -> of(what, minute);
                    });
        }
        var rules =
                List.of(RULE, when(Happening.RETURNED, opened(line(0, 0))), when(Happening.LATE, opened(line(1, 0))));
        var straight = told(rules, new CaseStory(events));
        Collections.shuffle(events, random);
        assertThat(told(rules, new CaseStory(events))).isEqualTo(straight);
        var story = new CaseStory(events);
        for (var one : straight.messages())
            assertThat(rules.get(one.rule()).when().calls(story.at(one.at())))
                    .as("nobody is told of what somebody has: %s", one)
                    .isTrue();
    }
}
