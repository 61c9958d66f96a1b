package app.morvet.core.alert;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static app.morvet.core.alert.Transition.Kind.CLEARED;
import static app.morvet.core.alert.Transition.Kind.EASED;
import static app.morvet.core.alert.Transition.Kind.RAISED;
import static app.morvet.core.alert.Transition.Kind.ROSE;
import static app.morvet.core.alert.Transition.Kind.SAYS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AlertLifeTest {
    private static final Instant NOW = Instant.parse("2026-11-23T04:38:00Z");
    private static final Origin ORIGIN = new Origin("tide", 4);

    private static Finding finding(String key, Severity level, double value, int minutesAgo, String occasion) {
        return new Finding(
                ORIGIN,
                key,
                About.of(7),
                level,
                value,
                key + " at " + value,
                NOW.minusSeconds(60L * minutesAgo),
                occasion);
    }

    private static Raised raised(String key, Severity level, double value, double worst) {
        return new Raised(
                ORIGIN, key, About.of(7), NOW.minusSeconds(900), level, value, worst, key + " at " + value, "");
    }

    private static List<Move> moves(List<Raised> raised, Finding... findings) {
        return AlertLife.moves(raised, List.of(findings), NOW, (origin, one, other) -> Math.max(one, other));
    }

    @Test
    void whatIsFoundForTheFirstTimeIsRaisedAtTheTimeSinceWhenItIs() {
        assertThat(moves(List.of(), finding("a", WARNING, 3, 5, "")))
                .singleElement()
                .satisfies(move -> {
                    assertThat(move.transition())
                            .isEqualTo(new Transition(RAISED, NOW.minusSeconds(300), WARNING, 3, 3));
                    assertThat(move.words()).isEqualTo("a at 3.0").isEqualTo(move.worstWords());
                    assertThat(move.about()).isEqualTo(About.of(7));
                });
    }

    @Test
    void whatBeginsLaterThanNowIsRaisedNow() {
        assertThat(moves(List.of(), finding("a", WARNING, 3, -5, "")))
                .extracting(move -> move.transition().at())
                .containsExactly(NOW);
    }

    @Test
    void whatIsFoundNoLongerIsOverWithItsLastValue() {
        assertThat(moves(List.of(raised("a", CRITICAL, 3, 9))))
                .singleElement()
                .satisfies(move -> assertThat(move.transition()).isEqualTo(new Transition(CLEARED, NOW, null, 3, 9)));
    }

    @Test
    void worseRisesMilderEasesAndAnotherValueIsOnlySaid() {
        var up = List.of(raised("a", WARNING, 3, 9), raised("b", WARNING, 3, 3), raised("c", WARNING, 3, 3));
        var moves = moves(
                up, finding("a", CRITICAL, 8, 0, ""), finding("b", NOTICE, 1, 0, ""), finding("c", WARNING, 4, 0, ""));
        assertThat(moves).extracting(move -> move.transition().kind()).containsExactly(ROSE, EASED, SAYS);
        assertThat(moves).extracting(move -> move.transition().worst()).containsExactly(9.0, 3.0, 4.0);
        // Only of what is at its worst now do the words say so.
        assertThat(moves).extracting(Move::worstWords).containsExactly(null, null, "c at 4.0");
    }

    @Test
    void whatSaysTheSameIsNotToldAgain() {
        assertThat(moves(List.of(raised("a", WARNING, 3, 3)), finding("a", WARNING, 3, 0, "")))
                .isEmpty();
    }

    @Test
    void theSameOnAnotherOccasionIsOverAndRaisedAnew() {
        var moves = moves(List.of(raised("a", WARNING, 3, 9)), finding("a", WARNING, 3, 2, "start of Tuesday"));
        assertThat(moves).extracting(move -> move.transition().kind()).containsExactly(CLEARED, RAISED);
        assertThat(moves.getLast().transition().worst()).isEqualTo(3);
        assertThat(moves.getLast().occasion()).isEqualTo("start of Tuesday");
    }

    @Test
    void ofTwoFindingsForOneAlertTheWorseCounts() {
        assertThat(moves(List.of(), finding("a", WARNING, 3, 0, ""), finding("a", CRITICAL, 2, 0, "")))
                .singleElement()
                .satisfies(move -> assertThat(move.transition().level()).isEqualTo(CRITICAL));
    }

    @ParameterizedTest
    @CsvSource({
        ",        WARNING,  RAISED",
        "WARNING, CRITICAL, ROSE",
        "NOTICE,  WARNING,  ROSE",
        "CRITICAL,NOTICE,   EASED",
        "WARNING, WARNING,  SAYS",
        "NOTICE,  ,         CLEARED"
    })
    void whatAChangeOfSeverityIsCalled(Severity before, Severity after, Transition.Kind called) {
        assertThat(Transition.between(before, after, NOW, 1, 2)).isEqualTo(new Transition(called, NOW, after, 1, 2));
    }

    @Test
    void fromNothingToNothingIsNoChange() {
        assertThatThrownBy(() -> Transition.between(null, null, NOW, 1, 2)).hasMessageContaining("nothing is up");
    }

    @ParameterizedTest
    @CsvSource({"failures", "failures/12", "failures/rule 7/everywhere"})
    void aTopicIsStoredAsTextAndReadBack(String text) {
        var topic = Topic.parse(text);
        assertThat(topic).isNotNull();
        assertThat(topic.text()).isEqualTo(text);
    }

    @ParameterizedTest
    @CsvSource({"''", "a/b/c", "a/b/everywhere/d", "a//everywhere"})
    void whatIsNoTopicIsRefused(String text) {
        assertThatThrownBy(() -> Topic.parse(text)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void allOfASortCoversThatSortOnAComponentAndNothingElse() {
        var all = Topic.all("failures");
        assertThat(all.covers(Topic.one("failures", "12"))).isTrue();
        assertThat(all.covers(all)).isFalse();
        assertThat(all.covers(Topic.everywhere("failures", "rule 7"))).isFalse();
        assertThat(all.covers(Topic.one("tides", "12"))).isFalse();
        assertThat(Topic.one("failures", "12").covers(Topic.one("failures", "12")))
                .isFalse();
    }
}
