package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import java.time.Duration;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** What is judged together, or has one alert together, falls to one node; and no more than that. */
class DealingTest {
    private static final Grouping BY_APPLICATION = new Grouping(Grouping.By.APPLICATION, "");

    private static StoredGuard guard(long id, Guard rule) {
        return new StoredGuard(id, "Guard " + id, true, Watch.of("heat"), rule, "", null, 1);
    }

    private static Terms terms(Grouping grouping) {
        var plain = Terms.clearing(0.85, Duration.ZERO);
        return new Terms(plain.clearing(), plain.noData(), grouping, null, null);
    }

    private static StoredGuard limit(long id, Grouping grouping) {
        return guard(
                id,
                new LimitGuard(
                        new Window.Sliding(Duration.ofMinutes(5)),
                        Amount.of(Amount.Fold.MEAN),
                        Limits.above(80, 90),
                        terms(grouping)));
    }

    private static StoredGuard combination(long id, Grouping grouping, Long... members) {
        return guard(
                id,
                new CombinationGuard(
                        Expression.parse(members.length == 1 ? "a" : "a and b"),
                        List.of(members),
                        Severity.WARNING,
                        true,
                        terms(grouping)));
    }

    @Test
    void guardsOfOneComponentFallTogetherAndThoseOfOthersDoNot() {
        var one = limit(1, Grouping.EACH_SUBJECT);
        var other = limit(2, Grouping.EACH_SUBJECT);
        var dealing = new Dealing(List.of(one, other));
        assertThat(dealing.of(one, 7, "c7")).isEqualTo(dealing.of(other, 7, "c7"));
        assertThat(dealing.of(one, 80, "c80")).isNotEqualTo(dealing.of(one, 7, "c7"));
    }

    /** Who made them one after the other mostly told of them so, too. */
    @Test
    void componentsInARowFallTogether() {
        var one = limit(1, Grouping.EACH_SUBJECT);
        var dealing = new Dealing(List.of(one));
        var numbers = LongStream.rangeClosed(1, 6400).map(component -> dealing.of(one, component, "c" + component));
        assertThat(numbers.distinct().count()).isEqualTo(401);
        assertThat(dealing.of(one, 32, "c32"))
                .isEqualTo(dealing.of(one, 47, "c47"))
                .isEqualTo(Dealing.of(40));
    }

    @Test
    void whatHasOneAlertOverSeveralComponentsFallsTogether() {
        var wide = limit(1, BY_APPLICATION);
        var dealing = new Dealing(List.of(wide));
        assertThat(dealing.of(wide, 7, "a3")).isEqualTo(dealing.of(wide, 80, "a3"));
        assertThat(dealing.of(wide, 7, "a3")).isNotEqualTo(dealing.of(wide, 90, "a4"));
    }

    @Test
    void aCombinationFallsWithItsMembersOnTheSameComponent() {
        var one = limit(1, Grouping.EACH_SUBJECT);
        var both = combination(2, Grouping.EACH_SUBJECT, 1L);
        var dealing = new Dealing(List.of(one, both));
        assertThat(dealing.of(both, 7, "c7")).isEqualTo(dealing.of(one, 7, "c7"));
        assertThat(dealing.of(both, 7, "c7")).isNotEqualTo(dealing.of(both, 80, "c80"));
    }

    /** Its members on a component would be judged where their alert is, and the combination where the component is. */
    @Test
    void aCombinationWithAMemberThatHasOneAlertOverManyIsDealtOutAsAWhole() {
        var narrow = limit(1, Grouping.EACH_SUBJECT);
        var wide = limit(2, BY_APPLICATION);
        var both = combination(3, Grouping.EACH_SUBJECT, 1L, 2L);
        var dealing = new Dealing(List.of(narrow, wide, both));
        long where = dealing.of(both, 7, "c7");
        assertThat(List.of(
                        dealing.of(both, 80, "c80"),
                        dealing.of(narrow, 7, "c7"),
                        dealing.of(narrow, 80, "c80"),
                        dealing.of(wide, 7, "a3"),
                        dealing.of(wide, 90, "a4")))
                .containsOnly(where);
    }

    @Test
    void combinationsThatShareAMemberAreOneWholeInWhateverOrderTheyStand() {
        var wide = limit(2, BY_APPLICATION);
        var guards = List.of(
                limit(1, Grouping.EACH_SUBJECT),
                wide,
                limit(3, Grouping.EACH_SUBJECT),
                combination(4, Grouping.EACH_SUBJECT, 1L, 3L),
                combination(5, Grouping.EACH_SUBJECT, 2L, 3L));
        for (var some : List.of(guards, guards.reversed())) {
            var dealing = new Dealing(some);
            assertThat(some.stream().map(one -> dealing.of(one, 7, "c7")))
                    .as("%s first", some.getFirst().name())
                    .containsOnly(dealing.of(wide, 7, "a3"));
        }
    }
}
