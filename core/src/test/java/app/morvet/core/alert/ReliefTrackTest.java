package app.morvet.core.alert;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.ReliefTrack.Step;
import app.morvet.core.alert.ReliefTrack.Stretch;
import java.time.Instant;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Trouble stands up from a strip of time: as high as the worst at each moment. */
class ReliefTrackTest {
    private static Instant at(int minute) {
        return Instant.ofEpochSecond(1_800_000_000L + 60L * minute);
    }

    private static Stretch up(Severity severity, int from, @Nullable Integer to) {
        return new Stretch(severity, at(from), to == null ? null : at(to));
    }

    @Test
    void theWorstStandsUpAndWhatIsStillUpReachesToNow() {
        var steps = ReliefTrack.steps(
                List.of(up(WARNING, -5, 20), up(CRITICAL, 10, 15), up(NOTICE, 40, null)), at(0), at(100), at(60));
        assertThat(steps)
                .containsExactly(
                        new Step(WARNING, at(0), at(10)),
                        new Step(CRITICAL, at(10), at(15)),
                        new Step(WARNING, at(15), at(20)),
                        new Step(NOTICE, at(40), at(60)));
    }

    @Test
    void whatMeetsAndIsAsBadIsOneStep() {
        assertThat(ReliefTrack.steps(
                        List.of(up(WARNING, 0, 10), up(WARNING, 5, 20), up(WARNING, 20, 30), up(NOTICE, 3, 7)),
                        at(0),
                        at(50),
                        at(50)))
                .containsExactly(new Step(WARNING, at(0), at(30)));
    }

    @Test
    void aTrackHasToEndAfterItBegins() {
        assertThatThrownBy(() -> ReliefTrack.steps(List.of(), at(1), at(1), at(0)))
                .hasMessage("a track begins before it ends");
    }

    @Provide
    Arbitrary<List<Stretch>> stretches() {
        return Combinators.combine(
                        Arbitraries.of(Severity.class),
                        Arbitraries.integers().between(-30, 130),
                        Arbitraries.integers().between(0, 60),
                        Arbitraries.of(true, false))
                .as((severity, from, length, ended) -> up(severity, from, ended ? from + length : null))
                .list()
                .ofMaxSize(12);
    }

    @Property
    void atEachMomentItIsAsHighAsTheWorstThen(
            @ForAll("stretches") List<Stretch> stretches, @ForAll @IntRange(min = 1, max = 120) int now) {
        var steps = ReliefTrack.steps(stretches, at(0), at(100), at(now));
        for (int minute = 0; minute < 100; minute++) {
            var moment = at(minute).plusSeconds(30);
            var worst = moment.isAfter(at(now))
                    ? null
                    : stretches.stream()
                            .filter(one -> one.from().isBefore(moment)
                                    && (one.to() == null || one.to().isAfter(moment)))
                            .map(Stretch::severity)
                            .max(Enum::compareTo)
                            .orElse(null);
            var shown = steps.stream()
                    .filter(one -> one.from().isBefore(moment) && one.to().isAfter(moment))
                    .map(Step::worst)
                    .toList();
            assertThat(shown).isEqualTo(worst == null ? List.of() : List.of(worst));
        }
    }
}
