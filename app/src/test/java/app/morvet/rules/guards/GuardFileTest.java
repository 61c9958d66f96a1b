package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.base.YamlFile;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Guards as a file: what is wrong in it is told by its line, and nobody's file can do harm. */
class GuardFileTest extends MorvetTest {
    @Autowired
    private GuardFile file;

    private static final String GOOD =
            """
            guards:
              - name: Disk of a quay
                watch: {measure: depth_of_water, kind: host}
                rule:
                  kind: limit
                  overLast: PT15M
                  fold: last
                  warning: 85
                  critical: 95
                  clearTime: PT5M
                owner: team
            """;

    private List<YamlFile.Fault> faults(String text) {
        setUpOnce();
        return file.read(text).faults();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    name: Disk of a quay | nme: Disk of a quay | 2  | "nme" is not known here; known are name, active, watch, rule, owner, fixNote.
                    name: Disk of a quay | name: ''            | 2  | The guard has no name.
                    name: Disk of a quay | name: [a, b]        | 2  | name must be a text.
                    overLast: PT15M      | overLast: 15 min    | 6  | overLast: must be a duration
                    fold: last           | fold: latest        | 7  | fold
                    warning: 85          | warning: 97         | 5  | the critical limit (95) must be above the warning limit (97)
                    warning: 85          | warning: much       | 8  | warning
                    kind: limit          | kind: oracle        | 5  | kind
                    clearTime: PT5M      | clearTime: PT25H    | 5 | the clear time is 0 to 24 h
                    measure: depth_of_water,  | ''                  | 3  | "Disk of a quay" watches no measure.
                    kind: host}          | tier: 9}            | 3  | a tier is 1, 2, 3 or 4
                    owner: team          | owner: Nobody       | 11 | There is no team "Nobody".
                    """)
    void whatIsWrongIsToldWithTheLineOnWhichItStands(String part, String wrong, int line, String words) {
        var good = GOOD.replace("owner: team", "");
        var text = (part.startsWith("owner") ? GOOD : good).replace(part, wrong);
        assertThat(faults(text)).as(text).isNotEmpty().first().satisfies(fault -> {
            assertThat(fault.words()).containsIgnoringCase(words);
            assertThat(fault.line()).as(fault.words()).isEqualTo(line);
        });
    }

    @Test
    void theGoodOneIsGoodAndSaysWhatItWouldDo() {
        setUpOnce();
        var read = file.read(GOOD.replace("    owner: team\n", ""));
        assertThat(read.faults()).isEmpty();
        assertThat(read.changes()).singleElement().satisfies(change -> {
            assertThat(change.before()).isNull();
            assertThat(change.after())
                    .isEqualTo("Watch depth of water on each host of the estate: the last value over the last 15 min. "
                            + "Warn above 85, critical above 95. Clear at the limit for 5 min.");
        });
    }

    @Test
    void theSameNameTwiceIsRefused() {
        var twice = GOOD.replace("    owner: team\n", "");
        assertThat(faults(twice + twice.substring(twice.indexOf("  - name"))))
                .extracting(YamlFile.Fault::words)
                .contains("The name \"Disk of a quay\" stands twice in this file.");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
                    guards: {a: b}             | begins with
                    []                         | begins with
                    guards: [a]                | Each guard is a list of names and values.
                    guards: [                  | This is not YAML
                    guards: "unclosed          | This is not YAML
                    guards: [*nobody]          | refers to something else
                    guards: [{name: a, name: b}] | "name" stands twice here.
                    just words                 | begins with
                    """)
    void whatIsNoSuchFileSaysSo(String text, String words) {
        assertThat(faults(text)).isNotEmpty().first().satisfies(fault -> assertThat(fault.words())
                .contains(words));
    }

    @Test
    void aBombIsRefusedAndAnObjectIsNeverMade() {
        var bomb = new StringBuilder("a: &a [x,x,x,x,x,x,x,x,x]\n");
        for (char c = 'b'; c < 'k'; c++)
            bomb.append("%c: &%c [*%c,*%c,*%c,*%c,*%c,*%c,*%c]\n"
                    .formatted(c, c, c - 1, c - 1, c - 1, c - 1, c - 1, c - 1, c - 1));
        assertThat(faults(bomb + "guards: [*j]")).isNotEmpty();
        assertThat(faults("guards: " + "[".repeat(5000))).isNotEmpty();
        assertThat(faults("guards: [!!javax.script.ScriptEngineManager [x]]")).isNotEmpty();
        assertThat(faults("guards: [{name: !!java.io.File [/etc/passwd], rule: {}}]"))
                .isNotEmpty();
        assertThat(faults("")).isNotEmpty();
    }

    @Test
    void membersOfACombinationAreNamedAndMustBeThere() {
        var text =
                """
                guards:
                  - name: Both of them
                    watch: {kind: host}
                    rule: {kind: combination, expression: a and b, members: ["no such guard", "nor this"], severity: critical}
                """;
        assertThat(faults(text)).singleElement().satisfies(fault -> {
            assertThat(fault.line()).isEqualTo(4);
            assertThat(fault.words()).contains("no such guard");
        });
    }
}
