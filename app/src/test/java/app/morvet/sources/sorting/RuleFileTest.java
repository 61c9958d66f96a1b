package app.morvet.sources.sorting;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.base.YamlFile;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Sorting rules as a file: what it would change, and what is wrong in it, by its line. */
class RuleFileTest extends MorvetTest {
    @Autowired
    private RuleFile file;

    private static final String GOOD =
            """
            sortingRules:
              - name: No such harbour
                where:
                  - errorContains: unknown harbour
                severity: critical
                fold: family
                foldMinutes: 90
                alerts: true
                sendAgain: false
                explainedBy: [endpoint]
                fixNote: Look at **the list**.
              - name: All else
                where: []
            """;

    private List<YamlFile.Fault> faults(String text) {
        setUpOnce();
        return file.read(text).faults();
    }

    @Test
    void itSaysWhatWouldBeNewAndWhatGone() {
        setUpOnce();
        var read = file.read(GOOD);
        assertThat(read.faults()).isEmpty();
        assertThat(read.changes())
                .anySatisfy(words ->
                        assertThat(words).startsWith("New: No such harbour. ").contains("unknown harbour"))
                .anySatisfy(words -> assertThat(words).startsWith("New: All else. "))
                .anySatisfy(words -> assertThat(words).startsWith("Gone: "));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    severity: critical       | severity: bad          | 2 | Severity is critical, warning or notice, was "bad".
                    fold: family             | fold: sideways         | 6 | fold is
                    foldMinutes: 90          | foldMinutes: many      | 7 | foldMinutes is a whole number of minutes
                    foldMinutes: 90          | foldMinutes: 0         | 2 | fold
                    alerts: true             | alerts: maybe          | 8 | alerts is true or false.
                    sendAgain: false         | sendAgain: [1]         | 9 | sendAgain must be a text.
                    errorContains:           | errorSmells:           | 2 | a condition has interface, step,
                    unknown harbour          | ''                     | 2 | say what to look for
                    errorContains: unknown harbour | errorMatches: "(a" | 4 | pattern
                    fixNote: Look            | fixnote: Look          | 11 | "fixnote" is not known here
                    explainedBy: [endpoint]  | owner: Nobody          | 10 | There is no team "Nobody".
                    """)
    void whatIsWrongIsToldWithItsLineAndInWords(String part, String wrong, int line, String words) {
        var faults = faults(GOOD.replace(part, wrong));
        assertThat(faults).isNotEmpty();
        assertThat(faults.getFirst().words()).containsIgnoringCase(words).doesNotContain("app.morvet", "For input");
        assertThat(faults.getFirst().line()).as(faults.toString()).isEqualTo(line);
    }

    @Test
    void theRulesTogetherMustMakeSense() {
        assertThat(faults(GOOD.replace("  - name: All else\n    where: []\n", "")))
                .extracting(YamlFile.Fault::words)
                .anySatisfy(words -> assertThat(words).containsIgnoringCase("last"));

        assertThat(faults(GOOD.replace("All else", "No such harbour"))).isNotEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
                    []                       | begins with
                    sortingRules: {a: b}     | begins with
                    sortingRules: [a]        | Each rule is a list of names and values.
                    sortingRules: [          | This is not YAML
                    sortingRules: [*nobody]  | refers to something else
                    """)
    void whatIsNoSuchFileSaysSo(String text, String words) {
        assertThat(faults(text)).isNotEmpty().first().satisfies(fault -> assertThat(fault.words())
                .contains(words));
    }
}
