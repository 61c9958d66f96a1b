package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** Two outputs beside each other: nothing is lost, and no more is told to differ than must be. */
class OutputComparisonProperties {
    @Provide
    Arbitrary<List<String>> outputs() {
        return Arbitraries.of("connect", "58 records", "61 records", "no space left", "done")
                .list()
                .ofMaxSize(10);
    }

    @Property
    void bothOutputsStandThereInWhole(@ForAll("outputs") List<String> left, @ForAll("outputs") List<String> right) {
        var rows = OutputComparison.of(String.join("\n", left), String.join("\n", right));
        assertThat(rows.stream()
                        .filter(one -> one.same() != OutputComparison.Same.RIGHT_ONLY)
                        .map(OutputComparison.Row::left))
                .isEqualTo(left);
        assertThat(rows.stream()
                        .filter(one -> one.same() != OutputComparison.Same.LEFT_ONLY)
                        .map(OutputComparison.Row::right))
                .isEqualTo(right);
    }

    @Property
    void asManyLinesAreTheSameAsCanBe(@ForAll("outputs") List<String> left, @ForAll("outputs") List<String> right) {
        var rows = OutputComparison.of(String.join("\n", left), String.join("\n", right));
        assertThat(rows.stream()
                        .filter(one -> one.same() == OutputComparison.Same.SAME)
                        .count())
                .isEqualTo(longest(left, right));
    }

    /** The longest common subsequence by trying all of the shorter. */
    private static int longest(List<String> left, List<String> right) {
        int longest = 0;
        for (int chosen = 0; chosen < 1 << left.size(); chosen++) {
            if (Integer.bitCount(chosen) <= longest) continue;
            int at = 0;
            boolean found = true;
            for (int i = 0; i < left.size() && found; i++) {
                if ((chosen >> i & 1) == 0) continue;
                while (at < right.size() && !plain(right.get(at)).equals(plain(left.get(i)))) at++;
                found = at++ < right.size();
            }
            if (found) longest = Integer.bitCount(chosen);
        }
        return longest;
    }

    private static String plain(String line) {
        return line.replaceAll("\\d+", "#");
    }

    @Test
    void ofAVeryLongOutputTheEndCounts() {
        var text = new StringBuilder();
        for (int i = 0; i < 3000; i++)
            text.append("step ").append((char) ('a' + i % 26)).append('\n');
        var rows = OutputComparison.of(text + "ERROR no space left", text + "done");
        assertThat(rows).hasSizeLessThanOrEqualTo(1202);
        assertThat(rows.reversed().subList(0, 2))
                .extracting(OutputComparison.Row::same)
                .containsExactly(OutputComparison.Same.RIGHT_ONLY, OutputComparison.Same.LEFT_ONLY);
    }
}
