package app.morvet.core.sorting;

import static app.morvet.core.guard.Truth.FALSE;
import static app.morvet.core.guard.Truth.TRUE;
import static app.morvet.core.guard.Truth.UNKNOWN;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.guard.Truth;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What rules may ask of a payload, and what is not known of one that cannot be read. */
class CandidateTest {
    private static final String XML =
            "<m:manifest xmlns:m='urn:x' version='2'><m:ship>Aurelia</m:ship><stop/><stop/><crew></crew></m:manifest>";
    private static final String JSON = "{\"ship\": \"Aurelia\", \"stops\": [1, 2], \"crew\": null, \"ok\": false}";

    private static Candidate message(String type, String payload) {
        return new Candidate("bookings", "deliver", "no", Map.of(), type, payload);
    }

    private static Truth xpath(String path, String payload) {
        return Condition.XPathHolds.of(path).of(message("application/xml", payload));
    }

    private static Truth jsonPath(String path, String payload) {
        return Condition.JsonPathHolds.of(path).of(message("application/json", payload));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    /manifest/ship               | TRUE
                    /manifest/port               | FALSE
                    //ship[. = 'Aurelia']        | TRUE
                    /manifest/@version           | TRUE
                    /manifest/@version > 1       | TRUE
                    /manifest/@version > 2       | FALSE
                    count(//stop) = 2            | TRUE
                    count(//port)                | FALSE
                    string(/manifest/crew)       | FALSE
                    string(/manifest/ship)       | TRUE
                    not(/manifest/port)          | TRUE
                    """)
    void anXPathHoldsWhereItFindsOrIsSomething(String path, Truth holds) {
        assertThat(xpath(path, XML)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    $.ship                      | TRUE
                    $.port                      | FALSE
                    $.stops[1]                  | TRUE
                    $.stops[9]                  | FALSE
                    $[?(@.ship == 'Aurelia')]   | TRUE
                    """)
    void aJsonPathHoldsWhereItFindsSomething(String path, Truth holds) {
        assertThat(jsonPath(path, JSON)).isEqualTo(holds);
    }

    @Test
    void whatIsNotXmlHasNoXPathAndWhatIsBrokenIsNotKnown() {
        assertThat(Condition.XPathHolds.of("/a").of(message("application/json", "{}")))
                .isEqualTo(FALSE);
        assertThat(Condition.JsonPathHolds.of("$.a").of(message("application/xml", "<a/>")))
                .isEqualTo(FALSE);
        assertThat(xpath("/a", "<a><b></a>")).isEqualTo(UNKNOWN);
        assertThat(jsonPath("$.a", "{\"a\": ")).isEqualTo(UNKNOWN);
        assertThat(xpath("/a", "")).isEqualTo(UNKNOWN);
    }

    @Test
    void aPayloadThatReachesOutsideOrIsTooLargeIsNotRead() {
        assertThat(xpath("/a", "<!DOCTYPE a [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><a>&x;</a>"))
                .isEqualTo(UNKNOWN);
        assertThat(xpath("/a", "<a>".repeat(300) + "</a>".repeat(300))).isEqualTo(UNKNOWN);
        assertThat(xpath("/a", "<a>" + "<b/>".repeat(9000) + "</a>")).isEqualTo(UNKNOWN);
        assertThat(jsonPath("$", "[".repeat(300) + "]".repeat(300))).isEqualTo(UNKNOWN);
        assertThat(jsonPath("$.a", "{\"a\": \"" + "x".repeat(Candidate.LONGEST_READ) + "\"}"))
                .isEqualTo(UNKNOWN);
        // Brackets within a text are no depth.
        assertThat(jsonPath("$.a", "{\"a\": \"" + "[".repeat(300) + "\"}")).isEqualTo(TRUE);
        assertThat(jsonPath("$.a", "{\"a\": \"\\\"" + "[".repeat(300) + "\"}")).isEqualTo(TRUE);
    }

    @Test
    void whatIsNotKnownTakesNothingUnlessAnotherConditionDecides() {
        var broken = message("application/xml", "<a>");
        var path = Condition.XPathHolds.of("/a");
        var contains = new Condition.ErrorContains("no");
        assertThat(new Criteria(java.util.List.of(path, contains), null).of(broken))
                .isEqualTo(UNKNOWN);
        assertThat(new Criteria(java.util.List.of(path, contains), app.morvet.core.guard.Expression.parse("a or b"))
                        .of(broken))
                .isEqualTo(TRUE);
        assertThat(new Criteria(java.util.List.of(new Condition.ErrorContains("yes"), path), null).of(broken))
                .isEqualTo(FALSE);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    /manifest[          | XPath
                    //a//b//c           | at most 2 of //
                    /a/descendant::b/descendant::c/following::d | at most 2 of //
                    """)
    void anXPathThatCannotBeReadOrTakesTooLongSaysWhere(String path, String words) {
        assertThatThrownBy(() -> Condition.XPathHolds.of(path))
                .isInstanceOf(Faulty.class)
                .hasMessageContaining(words);
    }

    /** Patterns that take time without end where an engine tries one way after the other. */
    @ParameterizedTest
    @ValueSource(strings = {"(.*)(.*)(.*)(.*)(.*)z", "(.|\\n)*timeout", "(\\p{L}+\\p{L}+)+\\d$", "(a|aa)+$", "(a*)*b"})
    void noPatternTakesMoreTimeThanTheTextIsLong(String pattern) {
        var condition = Condition.ErrorMatches.of(pattern);
        var message = new Candidate("bookings", "s", "a".repeat(100_000) + "!", Map.of(), "", "");
        assertThat(condition.of(message)).isEqualTo(FALSE);
    }

    @Test
    void capitalsMakeNoDifferenceToAPattern() {
        var condition = Condition.ErrorMatches.of("häfen .{0,20}GESPERRT");
        assertThat(condition.of(new Candidate("b", "s", "Alle HÄFEN sind gesperrt", Map.of(), "", "")))
                .isEqualTo(TRUE);
    }
}
