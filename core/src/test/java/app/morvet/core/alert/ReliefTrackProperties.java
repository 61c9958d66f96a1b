package app.morvet.core.alert;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** The strip against a look at every minute of it. A minute is ten wide, so no piece is made wider. */
class ReliefTrackProperties {
    private static final Instant START = Instant.parse("2027-03-18T00:00:00Z");
    private static final int MINUTES = 100;
    private static final double WIDTH = 1000;

    @Provide
    Arbitrary<List<ReliefTrack.Stretch>> stretches() {
        var minute = Arbitraries.integers().between(-20, MINUTES + 20);
        return Combinators.combine(Arbitraries.of(Severity.class), minute, minute.injectNull(0.2))
                .as((severity, from, to) ->
                        new ReliefTrack.Stretch(severity, minute(from), to == null ? null : minute(Math.max(from, to))))
                .list()
                .ofMaxSize(12);
    }

    @Property
    void eachMinuteIsAsHighAsTheWorstOfIt(@ForAll("stretches") List<ReliefTrack.Stretch> stretches) {
        var rises = ReliefTrack.of(stretches, minute(0), minute(MINUTES), WIDTH);
        for (int i = 0; i < MINUTES; i++) {
            var at = minute(i);
            double x = (i + 0.5) * WIDTH / MINUTES;
            var worst = stretches.stream()
                    .filter(one -> !one.from().isAfter(at)
                            && (one.to() == null || one.to().isAfter(at)))
                    .map(ReliefTrack.Stretch::severity)
                    .max(Severity::compareTo);
            var shown = rises.stream()
                    .filter(one -> one.x() <= x && x < one.x() + one.width())
                    .map(ReliefTrack.Rise::severity)
                    .toList();
            assertThat(shown).as("minute %d", i).isEqualTo(worst.stream().toList());
        }
    }

    @Property
    void piecesLieInTheStripFromLeftToRight(@ForAll("stretches") List<ReliefTrack.Stretch> stretches) {
        double before = 0;
        for (var one : ReliefTrack.of(stretches, minute(0), minute(MINUTES), WIDTH)) {
            assertThat(one.x()).isGreaterThanOrEqualTo(before - 1e-9);
            assertThat(one.width()).isPositive();
            before = one.x() + one.width();
            assertThat(before).isLessThanOrEqualTo(WIDTH + 1e-9);
        }
    }

    @Test
    void whatWasRaisedJustNowIsSeenInWhole() {
        var now = minute(MINUTES);
        var raised = new ReliefTrack.Stretch(Severity.CRITICAL, now.minusMillis(20), null);
        assertThat(ReliefTrack.of(List.of(raised), minute(0), now, WIDTH))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.x() + one.width()).isEqualTo(WIDTH, within(1e-9));
                    assertThat(one.width()).isGreaterThan(1);
                });
    }

    private static Instant minute(int minute) {
        return START.plusSeconds(60L * minute);
    }
}
