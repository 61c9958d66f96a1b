package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PayloadViewTest {

    @Test
    void xmlIsIndentedAndLosesNothing() {
        var view = PayloadView.of(
                "application/xml",
                "<?xml version=\"1.0\"?><m:a xmlns:m=\"urn:x\" n=\"1 &lt; 2\"><!-- c --><b>x &amp; y</b><c/></m:a>");
        assertThat(view.kind()).isEqualTo(PayloadView.Kind.XML);
        assertThat(view.text())
                .isEqualTo(
                        """
                <m:a xmlns:m="urn:x" n="1 &lt; 2">
                  <!-- c -->
                  <b>x &amp; y</b>
                  <c></c>
                </m:a>""");
    }

    @Test
    void brokenXmlIsShownAsItCameWithThePlaceOfTheBreak() {
        var view = PayloadView.of("text/xml", "<a>\n<b></a>");
        assertThat(view.kind()).isEqualTo(PayloadView.Kind.TEXT);
        assertThat(view.text()).isEqualTo("<a>\n<b></a>");
        assertThat(view.remark()).contains("not well-formed XML at line 2");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<!DOCTYPE a [<!ENTITY x SYSTEM \"file:///etc/passwd\">]><a>&x;</a>",
                "<!DOCTYPE a [<!ENTITY a \"ha\"><!ENTITY b \"&a;&a;&a;&a;\">]><a>&b;&b;&b;</a>",
                "<!DOCTYPE a SYSTEM \"http://127.0.0.1:9/x.dtd\"><a/>"
            })
    void anXmlThatReachesOutsideOrExpandsItselfIsOnlyEverText(String hostile) {
        var view = PayloadView.of("application/xml", hostile);
        assertThat(view.kind()).isEqualTo(PayloadView.Kind.TEXT);
        assertThat(view.text()).isEqualTo(hostile);
    }

    @Test
    void deepNestingIsNotFollowed() {
        assertThat(PayloadView.of("application/xml", "<a>".repeat(5000) + "</a>".repeat(5000))
                        .kind())
                .isEqualTo(PayloadView.Kind.TEXT);
        assertThat(PayloadView.of("application/json", "[".repeat(100_000)).remark())
                .contains("nested deeper than 200");
        var huge = PayloadView.of("application/json", "[".repeat(5_000_000));
        assertThat(huge.text()).hasSize(PayloadView.LONGEST_SHOWN);
        assertThat(huge.remark()).isEqualTo("The first 262,144 of 5,000,000 characters; download it to read the rest.");
    }

    @Test
    void jsonIsIndentedAndKeepsItsNumbersToTheLetter() {
        assertThat(PayloadView.of("application/json", "{\"a\":1.10,\"b\":[],\"c\":{\"d\":[1e2,\"x\\\"]\"]},\"e\":null}")
                        .text())
                .isEqualTo(
                        """
                {
                  "a": 1.10,
                  "b": [],
                  "c": {
                    "d": [
                      1e2,
                      "x\\"]"
                    ]
                  },
                  "e": null
                }""");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "{\"a\":1,}|'}' where a value should be at line 1, column 8",
                "{\"a\" 1}|no ':' after a name at line 1, column 6",
                "[1 2]|'2' where a comma or a closing bracket should be at line 1, column 4",
                "[1,tru]|\"tru\" is no JSON value at line 1, column 4",
                "{\"a\":1} x|something behind the end at line 1, column 9",
                "{\"a\":|it ends too early at line 1, column 6",
                "[\"a|a text that is not closed at line 1, column 2",
                "{1:2}|'1' where a name in quotes should be at line 1, column 2",
                "[01]|\"01\" is no JSON value at line 1, column 2"
            })
    void brokenJsonIsShownAsItCameWithThePlaceOfTheBreak(String broken, String why) {
        var view = PayloadView.of("application/json", broken);
        assertThat(view.kind()).isEqualTo(PayloadView.Kind.TEXT);
        assertThat(view.text()).isEqualTo(broken);
        assertThat(view.remark()).isEqualTo("Shown as it came: not JSON, " + why + ".");
    }

    @Provide
    Arbitrary<String> json() {
        var scalar = Arbitraries.of("1", "-2.50", "true", "null", "\"a b\"", "\"{[,:\"", "\"\\\\\\\"\"");
        Arbitrary<String> value = scalar;
        for (int depth = 0; depth < 4; depth++) {
            var inner = value;
            var list = inner.list().ofMaxSize(3).map(items -> "[" + String.join(",", items) + "]");
            var object = inner.list().ofMaxSize(3).map(items -> {
                var pairs = new java.util.ArrayList<String>();
                for (int i = 0; i < items.size(); i++) pairs.add("\"k" + i + "\":" + items.get(i));
                return "{" + String.join(",", pairs) + "}";
            });
            value = Arbitraries.frequencyOf(
                    net.jqwik.api.Tuple.of(1, scalar),
                    net.jqwik.api.Tuple.of(2, list),
                    net.jqwik.api.Tuple.of(2, object));
        }
        return value;
    }

    @Property
    void layingOutJsonChangesOnlyTheBlanksBetween(@ForAll("json") String compact) {
        var view = PayloadView.of("application/json", compact);
        assertThat(view.remark()).isEmpty();
        assertThat(withoutBlanks(view.text())).isEqualTo(withoutBlanks(compact));
    }

    private static String withoutBlanks(String text) {
        return text.replaceAll("[ \n]", "");
    }

    @Test
    void csvBecomesATableAndAnUnevenRowIsNamed() {
        var view = PayloadView.of("text/csv", "note;ship;tonnes\nBDN-1;Brinja;\"4;2\"\nBDN-2;Fjordis\n");
        assertThat(view.kind()).isEqualTo(PayloadView.Kind.TABLE);
        assertThat(view.table())
                .containsExactly(
                        List.of("note", "ship", "tonnes"),
                        List.of("BDN-1", "Brinja", "4;2"),
                        List.of("BDN-2", "Fjordis"));
        assertThat(view.remark()).isEqualTo("Row 3 has 2 fields where the head has 3.");
    }

    @Test
    void anEmptyPayloadIsNone() {
        assertThat(PayloadView.of("application/xml", "").kind()).isEqualTo(PayloadView.Kind.NONE);
        assertThat(PayloadView.of("", "plain").text()).isEqualTo("plain");
    }

    @Test
    void aFailedMessageIsCheckedAtTheDoor() {
        var at = Instant.parse("2026-11-24T04:00:00Z");
        assertThatThrownBy(() -> new FailedMessage(at, "k", "s", " ", Map.of(), "", ""))
                .hasMessageStartingWith("error is missing");
        assertThatThrownBy(() -> new FailedMessage(at, "k".repeat(201), "s", "e", Map.of(), "", ""))
                .hasMessage("businessKey is too long: at most 200 characters, were 201");
        assertThatThrownBy(() -> new FailedMessage(at, "k", "s", "e", Map.of("a", "x".repeat(2001)), "", ""))
                .hasMessageContaining("attribute a is too long");
    }

    @ParameterizedTest
    @CsvSource({
        "2026-11-24T04:05:00Z, ''",
        "2026-11-24T04:05:01Z, more than 5 min in the future",
        "2026-08-26T04:00:00Z, ''",
        "2026-08-26T03:59:59Z, more than 90 days old"
    })
    void timesAreBelievedWithinReason(Instant at, String refusal) {
        var why = EventTimes.refusal(at, Instant.parse("2026-11-24T04:00:00Z"));
        assertThat(why.orElse("")).contains(refusal);
        assertThat(why.isPresent()).isEqualTo(!refusal.isEmpty());
    }

    /** Each takes many times its length once it is laid out, or has more parts than a page can show. */
    @Test
    void whatWouldBecomeTooLargeIsShownAsItCame() {
        var deep = "[".repeat(199) + "1,".repeat(130_972);
        var json = PayloadView.of("application/json", deep);
        assertThat(json.kind()).isEqualTo(PayloadView.Kind.TEXT);
        assertThat(json.text()).isEqualTo(deep);
        assertThat(json.remark()).isEqualTo("Shown as it came: laid out it is longer than 1,048,576 characters.");
        var xml = PayloadView.of("application/xml", "<a>".repeat(190) + "<b/>".repeat(50_000) + "</a>".repeat(190));
        assertThat(xml.remark()).contains("laid out it is longer than 1,048,576 characters");
        var wide = PayloadView.of("text/csv", "a;b\n" + ";".repeat(250_000));
        assertThat(wide.table()).allMatch(row -> row.size() <= 100);
        assertThat(wide.remark())
                .contains("Row 2 has 250001 fields where the head has 2.", "The first 100 columns; download it");
    }

    @Test
    void aPartIsFoundAmongAHundredThousandOthers() {
        var masking = Masking.of(java.util.List.of(), "");
        var many = "<r>" + "<a><b>1</b></a>".repeat(15_000) + "<c>here</c></r>";
        var error = "wrong at /a/b/x, /a/b/y, /a/a/a/a and /r/c";
        assertThat(PayloadView.of("application/xml", many, masking, error).pieces())
                .anyMatch(piece -> piece.failing() && piece.text().equals("here"));
        var nth = "<r>" + "<a><b>1</b></a>".repeat(3000) + "<a><b>that</b></a></r>";
        assertThat(PayloadView.of("application/xml", nth, masking, "wrong at /r/a[3001]/b")
                        .pieces())
                .anyMatch(piece -> piece.failing() && piece.text().equals("that"));
    }
}
