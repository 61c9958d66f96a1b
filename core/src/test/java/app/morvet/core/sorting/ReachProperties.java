package app.morvet.core.sorting;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Truth;
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

/**
 * What is said of rules that can take nothing, against every message of a small world: two interfaces, two steps, four
 * errors, and an attribute that is there or not.
 */
class ReachProperties {
    private static final List<Candidate> WORLD = world();

    private static List<Candidate> world() {
        var all = new ArrayList<Candidate>();
        for (var key : List.of("bookings", "manifests"))
            for (var step : List.of("map", "deliver"))
                for (var error : List.of("refused", "refused by partner", "late", "no"))
                    for (var attributes : List.of(Map.<String, String>of(), Map.of("node", "1"), Map.of("node", "2")))
                        all.add(new Candidate(key, step, error, attributes, "text/plain", ""));
        return all;
    }

    @Provide
    Arbitrary<List<Criteria>> lists() {
        Arbitrary<Condition> condition = Arbitraries.of(
                new Condition.OnInterface(Set.of("bookings")),
                new Condition.OnInterface(Set.of("manifests")),
                new Condition.OnInterface(Set.of("bookings", "manifests")),
                new Condition.AtStep("map"),
                new Condition.AtStep("deliver"),
                new Condition.ErrorContains("refused"),
                new Condition.ErrorContains("REFUSED by"),
                new Condition.ErrorContains("late"),
                Condition.ErrorMatches.of("^no$"),
                new Condition.Attribute("node", ""),
                new Condition.Attribute("node", "1"),
                new Condition.Attribute("node", "2"));
        var joined = Arbitraries.of("a and b", "a or b", "a and not b", "not (a or b)", "not a", "a or not b");
        var plain = condition.list().ofMinSize(0).ofMaxSize(3).map(some -> new Criteria(some, null));
        var mixed = Combinators.combine(condition, condition, joined)
                .as((one, other, text) -> new Criteria(List.of(one, other), Expression.parse(text)));
        return Arbitraries.oneOf(plain, mixed).list().ofMinSize(1).ofMaxSize(6);
    }

    private static boolean takes(Criteria rule, Candidate message) {
        return rule.of(message) == Truth.TRUE;
    }

    @Property
    void whatIsCalledUnreachableTakesNoMessageThatThereIs(@ForAll("lists") List<Criteria> rules) {
        var findings = Reach.of(rules);
        assertThat(findings).hasSameSizeAs(rules);
        for (int i = 0; i < rules.size(); i++) {
            var finding = findings.get(i);
            if (finding.reachable()) continue;
            int place = i;
            for (var message : WORLD) {
                boolean takenBefore = rules.subList(0, place).stream().anyMatch(rule -> takes(rule, message));
                assertThat(takes(rules.get(place), message) && !takenBefore)
                        .as("rule %d of %s takes %s", place, rules, message.error())
                        .isFalse();
            }
        }
    }

    /** Whom a rule reaches is asked of the interfaces that it may take something of: none that it does take is left out. */
    @Property
    void whatIsTakenIsOnAnInterfaceOfWhichItMayBe(@ForAll("lists") List<Criteria> rules) {
        for (var rule : rules)
            for (var key : List.of("bookings", "manifests"))
                if (!rule.mayTakeOn(key))
                    assertThat(WORLD)
                            .filteredOn(message -> message.interfaceKey().equals(key))
                            .noneMatch(message -> takes(rule, message));
    }

    @Property
    void theRulesThatAreNamedTakeAllOfIt(@ForAll("lists") List<Criteria> rules) {
        var findings = Reach.of(rules);
        for (int i = 0; i < rules.size(); i++) {
            var rule = rules.get(i);
            var finding = findings.get(i);
            if (finding.byItself()) assertThat(WORLD).noneMatch(message -> takes(rule, message));
            if (finding.takenBy().isEmpty()) continue;
            assertThat(finding.takenBy())
                    .isSorted()
                    .doesNotHaveDuplicates()
                    .allMatch(place -> place < findings.indexOf(finding) || true);
            for (var message : WORLD)
                if (takes(rule, message))
                    assertThat(finding.takenBy()).anyMatch(earlier -> takes(rules.get(earlier), message));
        }
    }

    @Property
    void whatImpliesAnotherHoldsOnlyWhereThatHoldsAndWhatExcludesItNeverTogether(
            @ForAll("lists") List<Criteria> rules) {
        var conditions =
                rules.stream().flatMap(rule -> rule.conditions().stream()).toList();
        for (var one : conditions)
            for (var other : conditions)
                for (var message : WORLD) {
                    boolean holds = one.of(message) == Truth.TRUE;
                    boolean otherHolds = other.of(message) == Truth.TRUE;
                    if (one.implies(other) && holds) assertThat(otherHolds).isTrue();
                    if (one.excludes(other)) assertThat(holds && otherHolds).isFalse();
                }
    }

    /** One that had to be stopped leaves messages to those after it, so nothing is called unreachable for its sake. */
    @Property(tries = 300)
    void whatWasStoppedKeepsNothingFromOthers(@ForAll("lists") List<Criteria> rules) {
        var findings = Reach.of(rules, place -> place > 0);
        for (var finding : findings) assertThat(finding.takenBy()).doesNotContain(0);
        var without = Reach.of(rules.subList(1, rules.size()));
        for (int i = 0; i < without.size(); i++)
            assertThat(findings.get(i + 1).reachable()).isEqualTo(without.get(i).reachable());
    }
}
