package app.morvet.core.sorting;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Truth;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which rule takes a failed message, which can never take one, and how repeats fold. */
class SortingTest {
    private static final String XML =
            "<m:manifest xmlns:m=\"urn:sundrava\"><m:call harbour=\"FIXQV\" tonnes=\"12\"/><m:call harbour=\"TORVE\"/></m:manifest>";
    private static final String JSON =
            "{\"booking\":{\"key\":\"BK-1\",\"fares\":[{\"eur\":12},{\"eur\":90}]},\"paid\":false}";

    private static Candidate message(String error) {
        return new Candidate("manifest", "validate", error, Map.of("node", "hub-1"), "application/xml", XML);
    }

    private static Criteria all(Condition... conditions) {
        return new Criteria(List.of(conditions), null);
    }

    private static Condition contains(String text) {
        return new Condition.ErrorContains(text);
    }

    @Test
    void anInterfaceThatIsNamedIsTheOnlyOneThatMayBeMeant() {
        var one = new Condition.OnInterface(Set.of("one"));
        assertThat(new Criteria(List.of(one, contains("x")), null).mayTakeOn("one"))
                .isTrue();
        assertThat(new Criteria(List.of(one, contains("x")), null).mayTakeOn("two"))
                .isFalse();
        assertThat(new Criteria(List.of(one, contains("x")), Expression.parse("not a")).mayTakeOn("one"))
                .isFalse();
        assertThat(new Criteria(List.of(one, contains("x")), Expression.parse("a or b")).mayTakeOn("two"))
                .isTrue();
        assertThat(Criteria.EVERYTHING.mayTakeOn("two")).isTrue();
    }

    @Test
    void theFirstRuleThatTakesItHasItAndTheLastTakesWhatIsLeft() {
        var sorter = new Sorter(List.of(
                all(contains("REFUSED"), new Condition.AtStep("deliver")), all(contains("code")), Criteria.EVERYTHING));
        assertThat(sorter.sort(message("connection refused, code 7")).rule()).isEqualTo(1);
        assertThat(sorter.sort(message("nothing known")).rule()).isEqualTo(2);
    }

    @Test
    void conditionsAreJoinedByAndOrAndNot() {
        var conditions = List.of(contains("refused"), contains("reset"), new Condition.AtStep("validate"));
        var joined = new Criteria(conditions, Expression.parse("(A or B) and not C"));
        assertThat(joined.of(message("refused"))).isEqualTo(Truth.FALSE);
        assertThat(joined.of(new Candidate("manifest", "deliver", "was Reset", Map.of(), "", "")))
                .isEqualTo(Truth.TRUE);
        assertThatThrownBy(() -> new Criteria(conditions, Expression.parse("A and D")))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "//call[@harbour='FIXQV']      | TRUE",
                "/manifest/call[@tonnes > 20]  | FALSE",
                "count(//call) = 2             | TRUE",
                "//call[@harbour='TORVE']/@tonnes | FALSE"
            })
    void anXPathIsReadWithoutNamespaces(String path, Truth truth) {
        assertThat(Condition.XPathHolds.of(path).of(message("x"))).isEqualTo(truth);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "$.booking.fares[?(@.eur > 50)] | TRUE",
                "$.booking.fares[?(@.eur > 99)] | FALSE",
                "$.paid                         | FALSE",
                "$.nothing                      | FALSE"
            })
    void aJsonPathHoldsWhereItFindsAnythingButNullAndFalse(String path, Truth truth) {
        var message = new Candidate("booking", "map", "x", Map.of(), "application/json", JSON);
        assertThat(Condition.JsonPathHolds.of(path).of(message)).isEqualTo(truth);
        assertThat(Condition.JsonPathHolds.of(path).of(message("x"))).isEqualTo(Truth.FALSE);
    }

    @Test
    void aPayloadThatCannotBeReadIsNotKnownAndTakenByNone() {
        var broken = new Candidate("manifest", "x", "x", Map.of(), "application/xml", "<a><b></a>");
        var bomb = new Candidate(
                "manifest",
                "x",
                "x",
                Map.of(),
                "application/xml",
                "<!DOCTYPE a [<!ENTITY b \"" + "x".repeat(99) + "\">]><a>&b;</a>");
        var deep = new Candidate("m", "x", "x", Map.of(), "application/json", "[".repeat(100_000));
        assertThat(Condition.XPathHolds.of("//b").of(broken)).isEqualTo(Truth.UNKNOWN);
        assertThat(Condition.XPathHolds.of("//a").of(bomb)).isEqualTo(Truth.UNKNOWN);
        assertThat(Condition.JsonPathHolds.of("$..a").of(deep)).isEqualTo(Truth.UNKNOWN);
        assertThat(new Sorter(List.of(all(Condition.XPathHolds.of("//b")), Criteria.EVERYTHING))
                        .sort(broken)
                        .rule())
                .isEqualTo(1);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "xpath    | //call[@harbour='F   | 18",
                "xpath    | //call[[1]           | 8",
                "jsonpath | $.a[?(@.b ==         | 12",
                "jsonpath | booking.key          | 1",
                "pattern  | refused (a           | 10",
                "pattern  | a(?=b)               | 2",
                "pattern  | (a)\\1               | 4",
                "pattern  | ab*+                 | 3",
                "pattern  | ab{1001}             | 3",
                "pattern  | ((a{30}){30}){30}    | 14",
                "xpath    | //b[.=../b]          | 7",
                "xpath    | //b[.=//c]           | 7",
                "xpath    | //b[.=/a/b]          | 7",
                "xpath    | /a[count(b[c]) > 1]  | 11",
                "xpath    | //a//b//c//d         | 10"
            })
    void whatCannotBeReadIsRefusedWithThePlace(String kind, String text, int position) {
        var faulty = catchThrowableOfType(Faulty.class, () -> {
            switch (kind) {
                case "xpath" -> Condition.XPathHolds.of(text);
                case "jsonpath" -> Condition.JsonPathHolds.of(text);
                default -> Condition.ErrorMatches.of(text);
            }
        });
        assertThat(faulty).isNotNull();
        assertThat(faulty.position()).as(faulty.getMessage()).isEqualTo(position);
    }

    @Test
    void aRuleThatFailsStopsNothingElse() {
        @SuppressWarnings("NullAway")
        var broken = new Condition.ErrorMatches(null);
        var message = message("aaaa");
        var sorted = new Sorter(List.of(all(broken), all(contains("aaa")), Criteria.EVERYTHING)).sort(message);
        assertThat(sorted.rule()).isEqualTo(1);
        assertThat(sorted.stopped()).containsExactly(0);
    }

    @Test
    void aRuleThatCanNeverTakeAnythingIsFound() {
        var onOne = new Condition.OnInterface(Set.of("one"));
        var found = Reach.of(List.of(
                all(contains("refused")),
                all(contains("connection refused"), onOne),
                all(new Condition.AtStep("a"), new Condition.AtStep("b")),
                new Criteria(List.of(contains("x"), onOne), Expression.parse("A or B")),
                all(new Condition.OnInterface(Set.of("one")), contains("y")),
                Criteria.EVERYTHING));
        assertThat(found.get(0).reachable()).isTrue();
        assertThat(found.get(1).takenBy()).containsExactly(0);
        assertThat(found.get(2).byItself()).isTrue();
        assertThat(found.get(3).reachable()).isTrue();
        assertThat(found.get(4).takenBy()).containsExactly(3);
        assertThat(found.get(5).reachable()).isTrue();
    }

    private static final List<Condition> ATOMS = List.of(
            contains("a"),
            contains("ab"),
            contains("b"),
            new Condition.AtStep("s"),
            new Condition.AtStep("t"),
            new Condition.OnInterface(Set.of("i")),
            new Condition.OnInterface(Set.of("i", "j")),
            new Condition.Attribute("node", ""),
            new Condition.Attribute("node", "1"));

    @Provide
    Arbitrary<List<Criteria>> lists() {
        var joins = Arbitraries.of("", "A and B", "A or B", "not A and B", "A and not B", "not (A or B)");
        var one = Combinators.combine(Arbitraries.of(ATOMS), Arbitraries.of(ATOMS), joins)
                .as((a, b, join) -> new Criteria(List.of(a, b), join.isEmpty() ? null : Expression.parse(join)));
        return one.list().ofMinSize(1).ofMaxSize(4);
    }

    /** Against all messages that can be made of what the conditions ask. */
    @Property(tries = 300)
    void whatReachSaysIsNeverReachedIsNeverReached(@ForAll("lists") List<Criteria> rules) {
        var reach = Reach.of(rules);
        var sorter = new Sorter(with(rules));
        var took = new java.util.HashSet<Integer>();
        for (var error : List.of("-", "a", "b", "ab", "b a"))
            for (var step : List.of("s", "t", "u"))
                for (var at : List.of("i", "j", "k"))
                    for (var attributes : List.of(Map.<String, String>of(), Map.of("node", "1"), Map.of("node", "2")))
                        took.add(sorter.sort(new Candidate(at, step, error, attributes, "", ""))
                                .rule());
        for (int i = 0; i < rules.size(); i++)
            if (!reach.get(i).reachable())
                assertThat(took).as("rule %d of %s", i, rules).doesNotContain(i);
    }

    private static List<Criteria> with(List<Criteria> rules) {
        var all = new ArrayList<>(rules);
        all.add(Criteria.EVERYTHING);
        return all;
    }

    @Test
    void repeatsFoldForAsLongAsTheLastOneIsNear() {
        var window = new FoldWindow(Duration.ofMinutes(30));
        var last = Instant.parse("2026-11-24T06:00:00Z");
        assertThat(window.joins(last, last.plusSeconds(30 * 60 - 1))).isTrue();
        assertThat(window.joins(last, last.plusSeconds(30 * 60))).isFalse();
        assertThat(window.joins(last, last.minusSeconds(60))).isTrue();
        assertThat(window.over(last, last.plusSeconds(30 * 60 - 1))).isFalse();
        assertThat(window.over(last, last.plusSeconds(30 * 60))).isTrue();
        assertThatThrownBy(() -> new FoldWindow(Duration.ZERO)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void whatFoldsTogetherHasTheSameKey() {
        assertThat(FoldBy.FAMILY.key(1, 2, "BK-1")).isEqualTo(FoldBy.FAMILY.key(1, 2, "BK-2"));
        assertThat(FoldBy.FAMILY.key(1, 2, "BK-1")).isNotEqualTo(FoldBy.FAMILY.key(3, 2, "BK-1"));
        assertThat(FoldBy.SHARED_FAMILY.key(1, 2, "BK-1")).isEqualTo(FoldBy.SHARED_FAMILY.key(3, 2, "BK-2"));
        assertThat(FoldBy.SHARED_FAMILY.key(1, 2, "BK-1")).isNotEqualTo(FoldBy.SHARED_FAMILY.key(1, 4, "BK-1"));
        assertThat(FoldBy.RULE.key(1, 2, "BK-1")).isEqualTo(FoldBy.RULE.key(3, 4, "BK-2"));
        assertThat(FoldBy.BUSINESS_KEY.key(1, 2, "BK-1")).isNotEqualTo(FoldBy.BUSINESS_KEY.key(1, 2, "BK-2"));
    }

    @Test
    void aRuleIsProposedFromWhatAFamilyHasInCommonAndOthersLack() {
        var family = List.of(
                message("Unknown harbour code 'FIXQV' in /manifest"),
                message("Unknown harbour code 'TORVE' in /manifest"));
        var others = List.of(message("Unknown ship 'Aurelia' in /manifest"), message("connection refused"));
        var proposed = Proposing.from("Unknown harbour code ⟨text⟩ in /manifest", family, others);
        assertThat(family).allSatisfy(one -> assertThat(proposed.of(one)).isEqualTo(Truth.TRUE));
        assertThat(others).allSatisfy(one -> assertThat(proposed.of(one)).isNotEqualTo(Truth.TRUE));
    }
}
