package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** How bodies within an error are written to be compared. */
class BodyFormTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '´',
            value = {
                "{\"b\": 1, \"a\": \"x y\"} | {\"a\":\"x y\",\"b\":1}",
                "400: {\"b\":{\"d\":1,\"c\":[ 1 , {\"f\":2,\"e\":3} ]}} now | 400: {\"b\":{\"c\":[1,{\"e\":3,\"f\":2}],\"d\":1}} now",
                "{'b': 'x', 'a': None} | {'a':None,'b':'x'}",
                "{\"code\":\"A\",\"traceId\":\"1\",\"timestamp\":2,\"request-id\":3} | {\"code\":\"A\"}",
                "{\"traceId\":\"1\"} | {\"traceId\":\"1\"}",
                "{\"b\":-1.5e3,\"a\":\"say \\\"}\\\" twice\"} | {\"a\":\"say \\\"}\\\" twice\",\"b\":-1.5e3}",
                "two {\"b\":1,\"a\":2} of {\"d\":1,\"c\":2} | two {\"a\":2,\"b\":1} of {\"c\":2,\"d\":1}",
                "{ } and {\"a\":{ }} | {} and {\"a\":{}}",
                "<a> <b>x y</b>  </a> | <a><b>x y</b></a>"
            })
    void whatSaysTheSameIsWrittenTheSame(String body, String form) {
        assertThat(BodyForm.of(body)).isEqualTo(form);
        assertThat(BodyForm.of(form)).as("written once more").isEqualTo(form);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "no body",
                "{",
                "{}",
                "{not json}",
                "${fare.url}",
                "{\"a\":}",
                "{\"a\" 1}",
                "{\"a\":1",
                "{\"a\":\"open",
                "{\"a\":1 \"b\":2}",
                "{\"a\":[1,2}",
                "{\"b\":1,\"a\":2,}",
                "a < b and c > d"
            })
    void whatIsNoBodyStaysAsItIs(String text) {
        assertThat(BodyForm.of(text)).isEqualTo(text);
    }

    @Test
    void whatStandsInABodyThatIsCutOffIsStillWrittenInOneForm() {
        assertThat(BodyForm.of("{\"z\":[{\"b\":1,\"a\":2},{\"d\":")).isEqualTo("{\"z\":[{\"a\":2,\"b\":1},{\"d\":");
    }

    @Test
    void whatIsNestedDeeperThanAnyBodyStaysAsItIs() {
        var deep = "{\"b\":".repeat(60) + "1" + "}".repeat(60);
        assertThat(BodyForm.of(deep)).isEqualTo(deep);
        var list = "{\"b\":" + "[".repeat(2000) + "]".repeat(2000) + "}";
        assertThat(BodyForm.of(list)).isEqualTo(list);
    }

    @Test
    void familiesGoByWhatABodySaysAndShowItAsItCame() {
        var one = Fingerprint.of("{\"error\":\"E_FULL\",\"message\":\"Deck 4 is full\",\"requestId\":\"a-1\"}");
        var other = Fingerprint.of(
                "{\n  \"requestId\": \"b-2\",\n  \"message\": \"Deck 7 is full\",\n  \"error\": \"E_FULL\"\n}");
        assertThat(one.key()).isEqualTo(other.key());
        assertThat(one.skeleton()).startsWith("{\"error\":\"E_FULL\"");
        assertThat(other.skeleton()).startsWith("{\n\"requestId\"");
        assertThat(Fingerprint.of("{\"error\":\"E_GONE\",\"message\":\"Deck 4 is full\"}")
                        .key())
                .isNotEqualTo(one.key());
    }

    @Test
    void placesInAListOfABodyMakeNoDifference() {
        assertThat(Fingerprint.of("{\"guests[0].born\":[\"no date\"]}").key())
                .isEqualTo(Fingerprint.of("{\"guests[11].born\":[\"no date\"]}").key())
                .isNotEqualTo(
                        Fingerprint.of("{\"guests[0].land\":[\"no date\"]}").key());
    }
}
