package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What is hidden stays hidden, however it is written. */
class MaskingTest {
    private static final String SECRET = "SX12 3456 7890 1234";
    private static final Masking MASKS = Masking.of(
            List.of(
                    Mask.ofPath(Set.of(), "member/@no"),
                    Mask.ofPath(Set.of(), "contact/mail"),
                    Mask.ofPattern(Set.of(), "\\bSX\\d{2}(?: ?\\d{4}){3}\\b")),
            "crew");

    private static String base64(String text) {
        return Base64.getEncoder().encodeToString(text.getBytes(StandardCharsets.UTF_8));
    }

    private static List<String[]> written() {
        var xml = "application/xml";
        var json = "application/json";
        return List.of(
                new String[] {xml, "<r><member no=\"4711\">a</member></r>", "4711"},
                new String[] {xml, "<r><c:Member xmlns:c=\"urn:x\" c:NO='4711'/></r>", "4711"},
                new String[] {xml, "<r><contact><mail>a@b.example</mail></contact></r>", "a@b.example"},
                new String[] {xml, "<r><contact><mail><![CDATA[a@b.example]]></mail></contact></r>", "a@b.example"},
                new String[] {xml, "<r><contact><mail><x>a@b</x>.example</mail></contact></r>", "a@b"},
                new String[] {xml, "<r><note>pay to " + SECRET + " now</note></r>", "3456"},
                new String[] {xml, "<r><note>S&#88;12 3456 7890 1234</note></r>", "3456 7890"},
                new String[] {xml, "<r><note>SX12<!-- x --> 3456 7890 1234</note></r>", "7890"},
                new String[] {xml, "<r><note>SX12<![CDATA[ 3456 7890]]> 1234</note></r>", "3456"},
                new String[] {xml, "<r><note>" + base64(SECRET) + "</note></r>", base64(SECRET)},
                new String[] {xml, "<r><!-- member no=4711 --></r>", "4711"},
                new String[] {xml, "<r><member no=\"4711\">", "4711"},
                new String[] {json, "{\"contact\":{\"mail\":\"a@b.example\"}}", "a@b.example"},
                new String[] {json, "{\"c\\u006fntact\":{\"Mail\":[\"a@b.example\",\"x@y.example\"]}}", "x@y.example"},
                new String[] {json, "{\"note\":\"\\u0053X12 3456 7890 1234\"}", "7890"},
                new String[] {json, "{\"note\":\"SX12\\u0020345\\u0036 7890 1234\"}", "7890"},
                new String[] {json, "{\"inner\":\"{\\\"iban\\\":\\\"SX12 3456 7890 1234\\\"}\"}", "7890"},
                new String[] {json, "{\"contact\":{\"mail\":\"a@b.example\"", "a@b.example"},
                new String[] {"text/csv", "name;note\na;" + SECRET + "\n", "7890"},
                new String[] {"text/plain", "transfer to " + SECRET + " refused", "7890"},
                new String[] {"", "transfer to SX12%203456%207890%201234 refused", "7890"});
    }

    @ParameterizedTest
    @MethodSource("written")
    void howeverItIsWrittenItIsHidden(String type, String payload, String secret) {
        var masked = MASKS.payload(type, payload);
        assertThat(masked.text()).doesNotContain(secret).contains(Masking.HIDDEN);
        assertThat(masked.hidden()).isPositive();
        var view = PayloadView.of(type, payload, MASKS, "");
        assertThat(view.text() + view.table()).doesNotContain(secret).contains(Masking.HIDDEN);
    }

    @Test
    void whatIsNotNamedStays() {
        var payload = "<r><member name=\"Mora\" no=\"4711\">on board</member><mail>harbour@sundrava.example</mail></r>";
        assertThat(MASKS.payload("application/xml", payload).text())
                .isEqualTo("<r><member name=\"Mora\" no=\"" + Masking.HIDDEN
                        + "\">on board</member><mail>harbour@sundrava.example</mail></r>");
        assertThat(Masking.of(List.of(Mask.ofPath(Set.of("crew"), "a")), "other")
                        .hidesNothing())
                .isTrue();
    }

    @Test
    void whatCannotBeReadIsShownWhereOnlyPatternsHideAndNoneIsInIt() {
        var patterns = Masking.of(List.of(Mask.ofPattern(Set.of(), "SX\\d{2}(?: ?\\d{4}){3}")), "crew");
        var cut = "<manifest><call harbour='TORVE'><unit>12</un";
        assertThat(patterns.payload("application/xml", cut).text()).isEqualTo(cut);
        assertThat(patterns.payload("application/xml", cut + " SX12 3456 7890 1234 x")
                        .text())
                .doesNotContain("7890")
                .contains("TORVE");
        for (var written :
                List.of("SX12<!-- --> 3456 7890 1234", "SX12<b> 3456</b> 7890 1234", "SX12 3456 789&#48; 1234"))
            assertThat(patterns.payload("application/xml", cut + written).text())
                    .as(written)
                    .doesNotContain("3456");
    }

    @Test
    void aMaskedJsonIsStillJson() {
        assertThat(MASKS.payload("application/json", "{\"contact\":{\"mail\":{\"home\":1}},\"n\":2}")
                        .text())
                .isEqualTo("{\"contact\":{\"mail\":\"" + Masking.HIDDEN + "\"},\"n\":2}");
    }

    @Test
    void errorsAndAttributesAreHiddenToo() {
        assertThat(MASKS.text("cannot post to " + SECRET + ": closed").text())
                .isEqualTo("cannot post to " + Masking.HIDDEN + ": closed");
        assertThat(MASKS.text("cannot post to SX12&#32;3456&#32;7890&#32;1234: closed")
                        .text())
                .doesNotContain("7890");
        assertThat(MASKS.attributes(Map.of("iban", SECRET, "node", "hub-1")))
                .containsEntry("iban", Masking.HIDDEN)
                .containsEntry("node", "hub-1");
    }

    @Provide
    Arbitrary<String> escaped() {
        return Arbitraries.of("plain", "decimal", "hex", "cdata")
                .list()
                .ofSize(SECRET.length())
                .map(ways -> {
                    var out = new StringBuilder();
                    for (int i = 0; i < SECRET.length(); i++) {
                        char c = SECRET.charAt(i);
                        out.append(
                                switch (ways.get(i)) {
                                    case "decimal" -> "&#" + (int) c + ";";
                                    case "hex" -> "&#x" + Integer.toHexString(c) + ";";
                                    case "cdata" -> "<![CDATA[" + c + "]]>";
                                    default -> String.valueOf(c);
                                });
                    }
                    return out.toString();
                });
    }

    @Property(tries = 300)
    void noMixtureOfEntitiesAndCharacterDataGetsThrough(@ForAll("escaped") String written) {
        var masked = MASKS.payload("application/xml", "<r><note>" + written + "</note></r>");
        assertThat(masked.text()).doesNotContain(written);
        assertThat(masked.hidden()).isPositive();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "  ", "$", "/", "*/*"})
    void aPathThatNamesNothingIsRefused(String path) {
        assertThatThrownBy(() -> Mask.ofPath(Set.of(), path)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void aPatternThatOthersTakeForeverOverHidesWhatItFindsAndNoMore() {
        var slow = Masking.of(List.of(Mask.ofPattern(Set.of(), "(\\p{L}+\\p{L}+)+\\d$")), "crew");
        var harmless = "a".repeat(5000) + "!";
        assertThat(slow.text(harmless).text()).isEqualTo(harmless);
        assertThat(slow.text("a".repeat(5000) + "7").text()).isEqualTo(Masking.HIDDEN);
    }

    @Test
    void thePartThatTheErrorNamesIsMarked() {
        var xml = PayloadView.of(
                "application/xml",
                "<manifest><call><harbour>FIXQV</harbour></call></manifest>",
                Masking.of(List.of(), ""),
                "Unknown harbour code 'FIXQV' in /manifest/call/harbour");
        assertThat(failing(xml)).containsExactly("FIXQV");
        var json = PayloadView.of(
                "application/json",
                "{\"booking\":{\"fares\":[{\"eur\":1},{\"eur\":\"x\"}]}}",
                Masking.of(List.of(), ""),
                "not a number at /booking/fares/1/eur");
        assertThat(failing(json)).containsExactly("x");
        var text = PayloadView.of("text/plain", "one\ntwo\nthree", Masking.of(List.of(), ""), "cannot read line 2");
        assertThat(failing(text)).containsExactly("two");
    }

    private static List<String> failing(PayloadView view) {
        return view.pieces().stream()
                .filter(PayloadView.Piece::failing)
                .map(PayloadView.Piece::text)
                .toList();
    }
}
