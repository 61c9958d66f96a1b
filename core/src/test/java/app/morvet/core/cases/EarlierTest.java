package app.morvet.core.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.cases.Earlier.Known;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is explained by a case that opens after it. */
class EarlierTest {
    private static final Instant OPENED = Instant.parse("2027-03-18T02:00:00Z");

    @ParameterizedTest
    @CsvSource({
        // minutes before, untouched, what explains each of its alerts, whether it becomes a part
        "5, true, 9, true",
        "60, true, 9, true",
        "61, true, 9, false",
        "-5, true, 9, true",
        "5, false, 9, false",
        "5, true, 9 9, true",
        "5, true, 9 0, false",
        "5, true, 8, false",
        "5, true, '', false",
    })
    void onlyWhatIsFreshAndNobodysAndWhollyExplainedBecomesAPart(
            int minutes, boolean untouched, String by, boolean part) {
        var explained = by.isEmpty()
                ? List.<Long>of()
                : Arrays.stream(by.split(" ")).map(Long::valueOf).toList();
        var one = new Known(3, OPENED.minusSeconds(60L * minutes), untouched, explained);
        assertThat(Earlier.explained(List.of(one), 9, OPENED)).isEqualTo(part ? List.of(3L) : List.of());
    }

    @Test
    void aCaseIsNoPartOfItselfAndTheOrderMakesNoDifference() {
        var some = List.of(
                new Known(9, OPENED, true, List.of(9L)),
                new Known(7, OPENED, true, List.of(9L)),
                new Known(3, OPENED, true, List.of(9L)));
        assertThat(Earlier.explained(some, 9, OPENED)).containsExactly(3L, 7L);
        assertThat(Earlier.explained(some.reversed(), 9, OPENED)).containsExactly(3L, 7L);
    }
}
