package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which part of a payload is the one that an error names. */
class FailingPartTest {
    private static final String XML =
            """
            <m:manifest xmlns:m="urn:x" m:version="2">
              <m:ship>Aurelia</m:ship>
              <m:stop><harbour>OSTREVIA</harbour></m:stop>
              <m:stop><harbour>NOWHERE</harbour></m:stop>
            </m:manifest>""";
    private static final String JSON =
            """
            {
              "ship": "Aurelia",
              "stops": [ {"harbour": "OSTREVIA"}, {"harbour": "NOWHERE", "a/b": 7} ],
              "fares": {"full price": 12}
            }""";

    private static Optional<FailingPart> part(String type, String payload, String error) {
        return FailingPart.of(error, type, payload);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    bad value at /manifest/ship                       | Aurelia
                    bad value at /m:manifest/m:ship                   | Aurelia
                    element "/manifest/stop[2]/harbour" is unknown    | NOWHERE
                    /manifest/stop[1]/harbour: not in the list        | OSTREVIA
                    element "/manifest/stop[2]" is unknown            | <harbour>NOWHERE</harbour>
                    attribute /manifest/@version is too old           | 2
                    /stop[2]/harbour is unknown                       | OSTREVIA
                    cvc-type at line 4, column 22                     | NOWHERE
                    """)
    void ofXmlItIsTheElementOrAttributeThatIsNamed(String error, String shown) {
        assertThat(part("application/xml", XML, error))
                .map(it -> XML.substring(it.start(), it.end()))
                .contains(shown);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    /ship is not known                      | "Aurelia"
                    #/stops/1/harbour must be a harbour     | "NOWHERE"
                    at $.stops[1].harbour: no such          | "NOWHERE"
                    at $.stops[0].harbour: no such          | "OSTREVIA"
                    $.ship missing in list                  | "Aurelia"
                    $['fares']['full price'] is negative    | 12
                    /stops/1/a~1b is no text                | 7
                    Zeile 3, Spalte 53                      | "NOWHERE"
                    """)
    void ofJsonItIsTheValueThatAPointerOrAPathNames(String error, String shown) {
        assertThat(part("application/json", JSON, error))
                .map(it -> JSON.substring(it.start(), it.end()))
                .map(found -> found.startsWith("\"") || !shown.startsWith("\"") ? found : '"' + found + '"')
                .contains(shown);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    error in line 2                    | b
                    error on line 3: too few cells     | c;d
                    (line: 1)                          | a
                    rad 2                              | b
                    """)
    void whereOnlyALineIsKnownItIsTheWholeLine(String error, String shown) {
        var text = "a\nb\nc;d";
        assertThat(part("text/plain", text, error)).hasValueSatisfying(it -> {
            assertThat(text.substring(it.start(), it.end())).isEqualTo(shown);
            assertThat(it.line()).isTrue();
        });
    }

    @Test
    void whatIsNotThereIsNotShown() {
        assertThat(part("application/xml", XML, "bad value at /manifest/crew")).isEmpty();
        assertThat(part("application/xml", XML, "bad value at /manifest/stop[3]/harbour"))
                .isEmpty();
        assertThat(part("application/xml", XML, "bad value at /manifest/stop[0]/harbour"))
                .isEmpty();
        assertThat(part("application/xml", XML, "bad value at /manifest/stop[99999999999]"))
                .isEmpty();
        assertThat(part("application/xml", XML, "no answer from https://partner.example/manifest/ship"))
                .isEmpty();
        assertThat(part("application/json", JSON, "at $.stops[7].harbour")).isEmpty();
        assertThat(part("text/plain", "a\nb", "line 9")).isEmpty();
        assertThat(part("text/plain", "a\n\nb", "line 2"))
                .as("an empty line is nothing to look at")
                .isEmpty();
        assertThat(part("text/plain", "deadline 2", "the deadline 2 was missed"))
                .isEmpty();
        assertThat(part("text/plain", "", "line 1")).isEmpty();
    }

    @Test
    void itSaysHowTheErrorNamesIt() {
        assertThat(part("application/json", JSON, "at $.ship: no"))
                .map(FailingPart::named)
                .contains("$.ship");
        assertThat(part("application/xml", XML, "Line 2, col 5 is bad"))
                .map(FailingPart::named)
                .contains("Line 2, col 5");
    }

    /** Whatever line and column an error tells, what is shown lies within the payload. */
    @Property
    void whereverAnErrorPointsItStaysWithinThePayload(
            @ForAll @IntRange(max = 9_999_999) int line,
            @ForAll @IntRange(max = 9_999_999) int column,
            @ForAll @Size(max = 40) String text) {
        part("text/csv", text, "line %d, column %d".formatted(line, column)).ifPresent(it -> {
            assertThat(it.start()).isBetween(0, text.length());
            assertThat(it.end()).isBetween(it.start(), text.length());
        });
    }
}
