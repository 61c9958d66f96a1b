package app.morvet.core.checks;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is expected of an answer: as people write it, what it takes, and what it says where it is not met. */
class ExpectationTest {
    private static final String JSON =
            "{\"status\":\"open\",\"queue\":40,\"share\":0.5,\"ok\":true,\"none\":null,\"parts\":[{\"name\":\"gate\",\"up\":true},{\"name\":\"map\"}]}";
    private static final String XML =
            "<menu><day n=\"1\">Monday</day><day n=\"2\">Tuesday</day><price> 12.50 </price></menu>";

    private static Verdict verdict(String line, String body) {
        return Expectation.read(line).getFirst().of(new Answer(200, body, Duration.ofMillis(120)));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
                    $.status = "open"            | met
                    $.status = "closed"          | it is "open"
                    $.status != "closed"         | met
                    $.status matches "op.*"      | met
                    $.status matches "o"         | it is "open"
                    $.queue = 40                 | met
                    $.queue = 40.0               | met
                    $.queue = "40"               | met
                    $.queue = "40.0"             | it is "40"
                    $.queue >= 40                | met
                    $.queue >= 41                | it is "40"
                    $.queue <= 39                | it is "40"
                    $.status >= 1                | it is "open"
                    $.ok = true                  | met
                    $.none = null                | met
                    $.missing = 1                | there is nothing at $.missing
                    $.missing is there           | there is nothing at $.missing
                    $.parts[0].name is there     | met
                    $.parts[?(@.up)].name = "gate" | met
                    $.parts[?(@.down)].name is there | there is nothing at $.parts[?(@.down)].name
                    text "gate"                  | met
                    text "Gate"                  | it does not stand there
                    no text "error"              | met
                    no text "gate"               | it stands there
                    /menu/day is there           | the answer is not XML
                    """)
    void ofAnAnswerInJson(String line, String expected) {
        var verdict = verdict(line, JSON);
        assertThat(verdict.met() ? "met" : verdict.found()).isEqualTo(expected);
        assertThat(verdict.expected()).isEqualTo(line);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
                    /menu/day = "Monday"          | met
                    /menu/day[@n=2] = "Tuesday"   | met
                    /menu/price >= 12             | met
                    /menu/price = 12.5            | met
                    /menu/night is there          | there is nothing at /menu/night
                    $.status is there             | the answer is not JSON
                    """)
    void ofAnAnswerInXml(String line, String expected) {
        var verdict = verdict(line, XML);
        assertThat(verdict.met() ? "met" : verdict.found()).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "200, true",
        "404, false",
        "'200-299, 304', true",
        "'301,302', false",
        "199-201, true",
    })
    void theCode(String codes, boolean met) {
        assertThat(Expectation.Code.of(codes)
                        .of(new Answer(200, "", Duration.ZERO))
                        .met())
                .isEqualTo(met);
    }

    @Test
    void theTimeThatItTakes() {
        var within = new Expectation.Within(Duration.ofMillis(800));
        assertThat(within.of(new Answer(200, "", Duration.ofMillis(800))).met()).isTrue();
        assertThat(within.of(new Answer(200, "", Duration.ofMillis(801))))
                .isEqualTo(new Verdict("within 800 ms", false, "it took 801 ms"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
                    status = "open"         | is no expectation
                    $.a == "open"           | is no expectation
                    $.a = open              | a value is a text in quotes, a number, true, false or null, was open
                    $.a >= many             | "many" is not a number
                    $.a matches "("         | the pattern "(" cannot be read
                    $.[ = 1                 | JSONPath
                    //a//b//c = "1"         | at most 2 of //
                    text open               | is no expectation
                    """)
    void whatCannotBeReadIsSaid(String line, String why) {
        assertThatThrownBy(() -> Expectation.read("text \"fine\"\n" + line))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(why);
    }

    /** Nothing outside is fetched, nothing unfolds without end, and a broken answer is a word and no exception. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
                    <!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/passwd">]><a>&b;</a>
                    <!DOCTYPE a [<!ENTITY x "ha"><!ENTITY y "&x;&x;&x;&x;">]><a>&y;</a>
                    <a><b></a>
                    ``
                    """)
    void hostileXmlIsNotXml(String body) {
        assertThat(verdict("/a is there", body).found()).isEqualTo("the answer is not XML");
    }
}
