package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;

/** One alert for many series, against the levels of all of them kept side by side. */
class FoldingProperties {
    private static final Instant START = Instant.parse("2027-03-18T00:00:00Z");

    /** @param level that the member goes to; null is over */
    record Step(int member, @Nullable Severity level) {}

    @Provide
    Arbitrary<List<Step>> steps() {
        return Combinators.combine(
                        Arbitraries.integers().between(0, 4),
                        Arbitraries.of(Severity.class).injectNull(0.4))
                .as(Step::new)
                .list()
                .ofMaxSize(40);
    }

    /** What the guards of the members would tell: only what changes. */
    private static List<Folding.Of<Integer>> happened(List<Step> steps) {
        var levels = new HashMap<Integer, Severity>();
        var happened = new ArrayList<Folding.Of<Integer>>();
        for (var step : steps) {
            var before = levels.get(step.member());
            var after = step.level();
            if (before == after) continue;
            if (after == null) levels.remove(step.member());
            else levels.put(step.member(), after);
            var kind = before == null
                    ? Transition.Kind.RAISED
                    : after == null
                            ? Transition.Kind.CLEARED
                            : after.worseThan(before) ? Transition.Kind.ROSE : Transition.Kind.EASED;
            var at = START.plusSeconds(happened.size());
            happened.add(new Folding.Of<>(step.member(), new Transition(kind, at, after, 1, 1)));
        }
        return happened;
    }

    @Property
    void theAlertIsAlwaysAsBadAsTheWorst(@ForAll("steps") List<Step> steps) {
        var happened = happened(steps);
        var told = Folding.fold(Map.of(), happened);
        var levels = new HashMap<Integer, Severity>();
        Severity alert = null;
        int next = 0;
        for (var one : happened) {
            var level = one.transition().level();
            if (level == null) levels.remove(one.member());
            else levels.put(one.member(), level);
            var at = one.transition().at();
            if (next < told.size() && told.get(next).transition().at().equals(at)) {
                var change = told.get(next++).transition();
                assertThat(change.level()).as("a transition changes something").isNotEqualTo(alert);
                assertThat(change.kind()).isEqualTo(kind(alert, change.level()));
                alert = change.level();
            }
            assertThat(alert)
                    .isEqualTo(levels.values().stream().max(Severity::compareTo).orElse(null));
        }
        assertThat(next).isEqualTo(told.size());
    }

    @Property
    void foldedInTwoPartsItTellsTheSame(@ForAll("steps") List<Step> steps, @ForAll int cut) {
        var happened = happened(steps);
        int first = happened.isEmpty() ? 0 : Math.floorMod(cut, happened.size() + 1);
        var levels = new HashMap<Integer, Severity>();
        for (var one : happened.subList(0, first)) {
            var level = one.transition().level();
            if (level == null) levels.remove(one.member());
            else levels.put(one.member(), level);
        }
        var parts = new ArrayList<>(Folding.fold(Map.of(), happened.subList(0, first)));
        parts.addAll(Folding.fold(levels, happened.subList(first, happened.size())));
        assertThat(parts).isEqualTo(Folding.fold(Map.of(), happened));
    }

    private static Transition.Kind kind(@Nullable Severity before, @Nullable Severity after) {
        if (before == null) return Transition.Kind.RAISED;
        if (after == null) return Transition.Kind.CLEARED;
        return after.worseThan(before) ? Transition.Kind.ROSE : Transition.Kind.EASED;
    }
}
