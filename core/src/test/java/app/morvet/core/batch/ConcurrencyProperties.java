package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** How many run at once, against a count at every minute. */
class ConcurrencyProperties {
    private static final int MINUTES = 120;

    @Provide
    Arbitrary<List<Concurrency.Stretch>> stretches() {
        var minute = Arbitraries.integers().between(0, MINUTES);
        return Combinators.combine(minute, minute)
                .as((from, to) -> new Concurrency.Stretch(at(from), at(to)))
                .list()
                .ofMaxSize(20);
    }

    @Property
    void theCountIsRightAtEachMinute(@ForAll("stretches") List<Concurrency.Stretch> stretches) {
        var steps = Concurrency.of(stretches);
        for (int i = 0; i <= MINUTES; i++) assertThat(count(steps, at(i))).isEqualTo(running(stretches, at(i)));
        for (int i = 1; i < steps.size(); i++) {
            assertThat(steps.get(i).at()).isAfter(steps.get(i - 1).at());
            assertThat(steps.get(i).running()).isNotEqualTo(steps.get(i - 1).running());
        }
        if (!steps.isEmpty()) assertThat(steps.getLast().running()).isZero();
    }

    @Property
    void thereIsAShortageWhereMoreRunThanThereAreSlots(
            @ForAll("stretches") List<Concurrency.Stretch> stretches, @ForAll @IntRange(max = 6) int slots) {
        var shortages = Concurrency.beyond(Concurrency.of(stretches), slots);
        for (int i = 0; i <= MINUTES; i++) {
            var at = at(i);
            var here = shortages.stream()
                    .filter(one -> !one.from().isAfter(at) && one.to().isAfter(at))
                    .toList();
            int running = running(stretches, at);
            assertThat(here).hasSize(running > slots ? 1 : 0);
            if (running > slots) assertThat(here.getFirst().most()).isGreaterThanOrEqualTo(running);
        }
        for (var one : shortages) {
            int most = 0;
            for (int i = 0; i <= MINUTES; i++) {
                var at = at(i);
                if (!at.isBefore(one.from()) && at.isBefore(one.to())) most = Math.max(most, running(stretches, at));
            }
            assertThat(one.most()).isEqualTo(most);
        }
    }

    private static int count(List<Concurrency.Step> steps, Instant at) {
        return steps.stream()
                .filter(one -> !one.at().isAfter(at))
                .reduce((one, later) -> later)
                .map(Concurrency.Step::running)
                .orElse(0);
    }

    private static int running(List<Concurrency.Stretch> stretches, Instant at) {
        return (int) stretches.stream()
                .filter(one -> !one.from().isAfter(at) && one.to().isAfter(at))
                .count();
    }

    private static Instant at(int minute) {
        return Jobs.at("00:00").plusSeconds(60L * minute);
    }
}
