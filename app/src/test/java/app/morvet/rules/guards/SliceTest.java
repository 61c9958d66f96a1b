package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** What was stored is cut so that nodes read what falls to them: nothing is lost by it, and nothing comes twice. */
class SliceTest {
    private static long bit(long one) {
        return one % 10 == 9 ? Slice.ALL : 1L << one % 3;
    }

    private static double[] values(long[] of) {
        return Arrays.stream(of).mapToDouble(one -> one + 0.5).toArray();
    }

    @Test
    void muchIsCutAndEachRowIsInOneSliceInItsOrder() {
        var of = LongStream.range(0, 1000).map(one -> one * 7 % 1000).toArray();
        var at = Arrays.stream(of).map(one -> one * 60).toArray();
        var slices = Slice.cut(of, at, values(of), SliceTest::bit);
        assertThat(slices).extracting(Slice::bits).containsExactly(Slice.ALL, 1L, 2L, 4L);
        for (var slice : slices) {
            assertThat(slice.of())
                    .containsExactly(Arrays.stream(of)
                            .filter(one -> bit(one) == slice.bits())
                            .toArray());
            assertThat(slice.at())
                    .containsExactly(
                            Arrays.stream(slice.of()).map(one -> one * 60).toArray());
            assertThat(slice.values()).containsExactly(values(slice.of()));
        }
    }

    @Test
    void littleIsOneSliceForAllWhoWantSomeOfIt() {
        var of = new long[] {3, 4, 6};
        assertThat(Slice.cut(of, of, values(of), SliceTest::bit))
                .singleElement()
                .satisfies(one -> assertThat(one.bits()).isEqualTo(3));
        var anybodys = new long[] {3, 9};
        assertThat(Slice.cut(anybodys, anybodys, values(anybodys), SliceTest::bit))
                .singleElement()
                .satisfies(one -> assertThat(one.bits()).isEqualTo(Slice.ALL));
    }

    @Test
    void failedMessagesHaveNoValues() {
        var of = LongStream.range(0, Slice.CUT_FROM).map(one -> 1).toArray();
        assertThat(Slice.cut(of, of, new double[0], SliceTest::bit))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.of()).hasSize(Slice.CUT_FROM);
                    assertThat(one.values()).isEmpty();
                });
    }
}
