package app.morvet.views.shift;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Which applications stand on the first page of a shift, and which are asked for. */
class LookTest {
    private static Look of(int loud, int quiet) {
        return new Look(List.of(), rows(loud), rows(quiet), loud + quiet, List.of(), 144, 288);
    }

    /** Thirty of each tier, in their order. */
    private static List<Look.Row> rows(int count) {
        return IntStream.range(0, count)
                .mapToObj(at -> new Look.Row(
                        "a" + at, "A " + at, 1 + at / 30, "warning", List.of(), 0, List.of(), List.of(), List.of()))
                .toList();
    }

    private static List<Integer> sizes(List<Look.OfTier> tiers) {
        return tiers.stream().map(tier -> tier.rows().size()).toList();
    }

    @Test
    void whatFitsIsShownByTierAndNothingIsLeft() {
        var look = of(Look.SHOWN, 0);
        assertThat(look.tiers().stream().map(Look.OfTier::words)).containsExactly("tier 1", "tier 2");
        assertThat(sizes(look.tiers())).containsExactly(30, 20);
        assertThat(look.more()).isZero();
        assertThat(look.rest()).isEmpty();
        assertThat(of(0, 3).tiers()).isEmpty();
    }

    @Test
    void theRestGoesOnWhereTheFirstEndAndNoneIsLostOrTwice() {
        var look = of(101, 0);
        assertThat(look.more()).isEqualTo(51);
        assertThat(sizes(look.rest())).as("of tiers 2, 3 and 4").containsExactly(10, 30, 11);
        var keys = IntStream.range(0, 101).mapToObj(at -> "a" + at).toList();
        var shown = List.of(look.tiers(), look.rest()).stream()
                .flatMap(List::stream)
                .flatMap(tier -> tier.rows().stream())
                .map(Look.Row::key)
                .toList();
        assertThat(shown).isEqualTo(keys);
    }

    @Test
    void aTierThatIsCutGoesOnUnderItsOwnWords() {
        var cut = new Look(List.of(), rows(101).subList(15, 101), List.of(), 86, List.of(), 144, 288);
        assertThat(sizes(cut.tiers())).containsExactly(15, 30, 5);
        assertThat(cut.rest().stream().map(Look.OfTier::words)).containsExactly("tier 3", "tier 4");
        assertThat(sizes(cut.rest())).containsExactly(25, 11);
    }

    @Test
    void manyThatNeedEyesStandCloser() {
        assertThat(of(14, 40).packed()).as("however many are steady").isFalse();
        assertThat(of(15, 0).packed()).isTrue();
    }

    @Test
    void someOfTheQuietAreNamed() {
        assertThat(of(0, 40).firstQuiet()).hasSize(12);
        assertThat(of(0, 5).firstQuiet()).hasSize(5);
    }
}
