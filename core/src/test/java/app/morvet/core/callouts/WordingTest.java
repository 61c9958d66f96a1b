package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class WordingTest {
    private static final Map<String, String> VALUES = Map.of(
            "case.headline", "12 failed on Fares to displays",
            "case.number", "61",
            "case.facts", "Failed  12 messages\nFirst   04:06",
            "case.sample", "no {case.number} $1 \\ in __it__");

    private static String filled(String text) {
        return new Wording(text).filled(name -> VALUES.getOrDefault(name, ""));
    }

    @Test
    void variablesAreFilledInAndWhatIsFilledInIsNotReadAgain() {
        assertThat(filled("**{case.headline}** (case {case.number})\n\n{case.facts}\n\n> {case.sample}\n"))
                .isEqualTo(
                        """
                        **12 failed on Fares to displays** (case 61)

                        Failed  12 messages
                        First   04:06

                        > no {case.number} $1 \\ in __it__""");
    }

    @Test
    void aParagraphWhoseVariablesAreAllEmptyIsLeftOut() {
        assertThat(
                        filled(
                                "One.\n\nTo do:\n{case.fix}\n\nLimits {case.limits}, case {case.number}\n\n{case.curve}\n\nEnd."))
                .isEqualTo("One.\n\nLimits , case 61\n\nEnd.");
        assertThat(filled("Case {case.number}\n{case.limits}\nand so on"))
                .as("so is a line of nothing else")
                .isEqualTo("Case 61\nand so on");
        assertThat(filled("Nothing here varies.")).isEqualTo("Nothing here varies.");
        assertThat(filled("{case.fix}")).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    'Dear {case.name}'           | 1 | 6  | there is no {case.name}. There are: {told.as}, {told.why}
                    'a\n\n  {case.headline} {x}' | 3 | 19 | there is no {x}.
                    'a\n{case.headline'          | 2 | 1  | a brace is open
                    'a } b'                      | 1 | 3  | a brace is open
                    '{{case.headline}}'          | 1 | 1  | a brace is open
                    'a {} b'                     | 1 | 3  | there is no {}.
                    """)
    void whatIsWrongIsToldByItsPlace(String text, int line, int place, String what) {
        assertThatThrownBy(() -> new Wording(text.replace("\\n", "\n")))
                .isInstanceOf(Wording.Wrong.class)
                .hasMessageStartingWith("Line %d, place %d: %s".formatted(line, place, what));
    }

    @Test
    void itIsNotTooLong() {
        assertThatThrownBy(() -> new Wording("x".repeat(8001))).hasMessageContaining("longer than 8,000 characters");
    }

    @ParameterizedTest
    @ValueSource(strings = {"told.as", "case.facts", "case.curve", "zone"})
    void eachVariableThatIsListedCanBeUsed(String name) {
        assertThat(new Wording("{" + name + "} and {" + name + "}").uses()).containsExactly(name);
        assertThat(Wording.VARIABLES.get(name)).isNotBlank();
    }
}
