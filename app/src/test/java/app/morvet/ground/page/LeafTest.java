package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class LeafTest {
    private static final List<Integer> SEVEN = IntStream.range(0, 7).boxed().toList();

    @Test
    void aListIsShownLeafByLeaf() {
        assertThat(Leaf.of(SEVEN, 0, 3)).isEqualTo(new Leaf<>(List.of(0, 1, 2), 0, -1, 3));
        assertThat(Leaf.of(SEVEN, 3, 3)).isEqualTo(new Leaf<>(List.of(3, 4, 5), 3, 0, 6));
        assertThat(Leaf.of(SEVEN, 6, 3)).isEqualTo(new Leaf<>(List.of(6), 6, 3, -1));
        assertThat(Leaf.of(SEVEN, 0, 7)).as("all of it").isEqualTo(new Leaf<>(SEVEN, 0, -1, -1));
        assertThat(Leaf.of(List.of(), 0, 3)).isEqualTo(new Leaf<>(List.of(), 0, -1, -1));
    }

    /** A list may have become shorter since, and an address is typed. */
    @Test
    void whatLiesOutsideOfItLeadsBack() {
        assertThat(Leaf.of(SEVEN, 90, 3)).isEqualTo(new Leaf<>(List.of(), 7, 4, -1));
        assertThat(Leaf.of(SEVEN, -4, 3).shown()).containsExactly(0, 1, 2);
        assertThat(Leaf.of(SEVEN, 1, 3).earlier()).as("not before the first").isZero();
        assertThat(Leaf.of(SEVEN, Integer.MAX_VALUE, 3).later()).isEqualTo(-1);
    }
}
