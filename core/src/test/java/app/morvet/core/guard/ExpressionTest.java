package app.morvet.core.guard;

import static app.morvet.core.guard.Truth.FALSE;
import static app.morvet.core.guard.Truth.TRUE;
import static app.morvet.core.guard.Truth.UNKNOWN;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How the members of a combination are joined: what is typed, what it means, and what is unknown. */
class ExpressionTest {
    private static Truth of(String text, Truth... members) {
        return Expression.parse(text).of(index -> members[index]);
    }

    @Test
    void notBindsTightestThenAndThenOr() {
        assertThat(of("a or b and c", TRUE, FALSE, FALSE)).isEqualTo(TRUE);
        assertThat(of("(a or b) and c", TRUE, FALSE, FALSE)).isEqualTo(FALSE);
        assertThat(of("not a and b", TRUE, FALSE)).isEqualTo(FALSE);
        assertThat(of("not (a and b)", TRUE, FALSE)).isEqualTo(TRUE);
        assertThat(of("not not a", TRUE)).isEqualTo(TRUE);
    }

    @Test
    void whatIsUnknownCountsOnlyWhereItDecides() {
        assertThat(of("a and b", FALSE, UNKNOWN)).isEqualTo(FALSE);
        assertThat(of("a and b", TRUE, UNKNOWN)).isEqualTo(UNKNOWN);
        assertThat(of("a or b", TRUE, UNKNOWN)).isEqualTo(TRUE);
        assertThat(of("a or b", FALSE, UNKNOWN)).isEqualTo(UNKNOWN);
        assertThat(of("not a", UNKNOWN)).isEqualTo(UNKNOWN);
    }

    /** A member that is unknown is one that may be either: where both make the same, the whole is known. */
    @Property
    void unknownIsWhateverBothWouldMake(
            @ForAll("expressions") Expression whole, @ForAll("truths") List<Truth> members) {
        var told = whole.of(members::get);
        var couldBe = Map.of(true, possible(whole, members, 0, true), false, possible(whole, members, 0, false));
        if (told == TRUE) assertThat(couldBe.get(false)).isFalse();
        if (told == FALSE) assertThat(couldBe.get(true)).isFalse();
        if (members.stream().noneMatch(one -> one == UNKNOWN)) assertThat(told).isNotEqualTo(UNKNOWN);
    }

    private static boolean possible(Expression whole, List<Truth> members, int index, boolean wanted) {
        if (index == members.size()) return whole.of(members::get) == (wanted ? TRUE : FALSE);
        if (members.get(index) != UNKNOWN) return possible(whole, members, index + 1, wanted);
        for (var either : List.of(TRUE, FALSE)) {
            var chosen = new java.util.ArrayList<>(members);
            chosen.set(index, either);
            if (possible(whole, chosen, index + 1, wanted)) return true;
        }
        return false;
    }

    @Property
    void whatIsWrittenIsReadAsTheSame(@ForAll("expressions") Expression whole, @ForAll("truths") List<Truth> members) {
        var again = Expression.parse(whole.text());
        assertThat(again.of(members::get)).isEqualTo(whole.of(members::get));
        assertThat(again.text()).isEqualTo(whole.text());
        assertThat(whole.highest()).isLessThan(members.size());
    }

    @Provide
    Arbitrary<List<Truth>> truths() {
        return Arbitraries.of(TRUE, FALSE, UNKNOWN).list().ofSize(4);
    }

    @Provide
    Arbitrary<Expression> expressions() {
        return deep(2);
    }

    private static Arbitrary<Expression> deep(int depth) {
        Arbitrary<Expression> leaf = Arbitraries.integers().between(0, 3).map(Expression.Member::new);
        if (depth == 0) return leaf;
        var inner = deep(depth - 1);
        return Arbitraries.oneOf(
                leaf,
                inner.map(Expression.Not::new),
                Combinators.combine(
                                Arbitraries.of(true, false),
                                inner.list().ofMinSize(2).ofMaxSize(3))
                        .as(Expression.Joined::new));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    ''           | expected a letter from a to h at character 1
                    a and        | expected a letter from a to h at character 6
                    a b          | expected "and", "or" or the end at character 3
                    (a or b      | expected a closing bracket at character 8
                    a or z       | expected a letter from a to h at character 6
                    ab           | expected a letter from a to h at character 1
                    a ) b        | expected "and", "or" or the end at character 3
                    """)
    void whatCannotBeReadSaysWhere(String text, String said) {
        assertThatThrownBy(() -> Expression.parse(text))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(said);
    }

    @Test
    void endlessBracketsAreRefusedAndDoNotOverflow() {
        assertThatThrownBy(() -> Expression.parse("(".repeat(100_000) + "a"))
                .hasMessageContaining("expected fewer brackets");
        assertThatThrownBy(() -> Expression.parse("not ".repeat(100_000) + "a"))
                .hasMessageContaining("expected fewer brackets");
    }
}
