package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.FieldSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Ways in which somebody might get a hidden value past a mask that goes by the path of a field, and one by its pattern. */
class MaskTriesTest {
    private static final String SECRET = "Zyxwv98765";
    private static final Masking PATHS =
            Masking.of(List.of(Mask.ofPath(Set.of(), "iban"), Mask.ofPath(Set.of(), "contact/mail")), "crew");
    private static final Masking PATTERN = Masking.of(List.of(Mask.ofPattern(Set.of(), "Zyxwv\\d{5}")), "crew");

    private static final String XML = "application/xml";
    private static final String JSON = "application/json";
    private static final String CSV = "text/csv";
    private static final String TEXT = "text/plain";

    private static final List<String[]> BY_PATH = List.of(
            // Tables.
            new String[] {CSV, "name;iban\nMora;" + SECRET},
            new String[] {CSV, "\uFEFFiban;name\n" + SECRET + ";Mora"},
            new String[] {CSV, "sep=;\niban;name\n" + SECRET + ";Mora"},
            new String[] {CSV, "\uFEFFsep=|\r\nname|iban\r\nMora|" + SECRET},
            new String[] {CSV, "Crew of the Aurelind\nname;iban\nMora;" + SECRET},
            new String[] {CSV, "Crew\nof March\n\nname;iban\nMora;" + SECRET},
            new String[] {CSV, "name|iban\nMora|" + SECRET},
            new String[] {CSV, "name\tiban\nMora\t" + SECRET},
            new String[] {CSV, "name;\"Iban\"\n\"Mo\"\"ra\";\"" + SECRET + "\""},
            new String[] {CSV, "mora@sundrava.example;" + SECRET + "\nAuda;FI1"},
            new String[] {CSV, "4711;" + SECRET + "\n4712;FI1"},
            new String[] {CSV, SECRET + ";Mora"},
            new String[] {TEXT, "name;iban\nMora;" + SECRET},
            new String[] {"", "iban\n" + SECRET},
            new String[] {TEXT, "name=Mora&iban=" + SECRET},
            new String[] {TEXT, "iban: " + SECRET},
            // XML.
            new String[] {XML, "<a><iban>" + SECRET + "</iban></a>"},
            new String[] {XML, "<a><iban no=\"" + SECRET + "\">x</iban></a>"},
            new String[] {XML, "<a><x:iban xmlns:x='u' x:no='" + SECRET + "'/></a>"},
            new String[] {XML, "<a><!-- iban: " + SECRET + " --></a>"},
            new String[] {XML, "<a><!-- Iban of Mora: " + SECRET + " --></a>"},
            new String[] {XML, "<a/>iban=" + SECRET},
            new String[] {XML, "<a/><iban>" + SECRET + "</iban>"},
            new String[] {XML, "iban " + SECRET + "<a/>"},
            new String[] {XML, "<?iban " + SECRET + "?><a/>"},
            new String[] {XML, "<a><![CDATA[<iban>" + SECRET + "</iban>]]></a>"},
            new String[] {XML, "<a>&lt;iban&gt;" + SECRET + "&lt;/iban&gt;</a>"},
            new String[] {XML, "<a>&amp;lt;iban&amp;gt;" + SECRET + "&amp;lt;/iban&amp;gt;</a>"},
            new String[] {XML, "<a body=\"{&quot;iban&quot;:&quot;" + SECRET + "&quot;}\"/>"},
            new String[] {XML, "<a>{\"iban\": \"" + SECRET + "\"}</a>"},
            new String[] {XML, "<a>name;iban\nMora;" + SECRET + "</a>"},
            new String[] {XML, "<a>" + base64("{\"iban\":\"" + SECRET + "\"}") + "</a>"},
            new String[] {XML, "<!DOCTYPE a [<!ENTITY e \"" + SECRET + "\">]><a><iban>&e;</iban></a>"},
            new String[] {XML, "\u00A0<a><iban>" + SECRET + "</iban></a>"},
            new String[] {XML, "<a><iban>" + SECRET + "</a>"},
            new String[] {XML, "<a><b><iban>" + SECRET},
            // JSON.
            new String[] {JSON, "{\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, "{\"iban\":{\"" + SECRET + "\":1}}"},
            new String[] {JSON, "{\"IBAN\":[[[\"" + SECRET + "\"]]]}"},
            new String[] {JSON, "{\"note\":\"x\\\\\",\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, "{\"note\":\"{\\\"iban\\\":\\\"" + SECRET + "\\\"}\"}"},
            new String[] {JSON, "{\"note\":\"{\\\\\\\"iban\\\\\\\":\\\\\\\"" + SECRET + "\\\\\\\"}\"}"},
            new String[] {JSON, "{\"note\":\"<iban>" + SECRET + "</iban>\"}"},
            new String[] {JSON, "{\"note\":\"iban=" + SECRET + "\"}"},
            new String[] {JSON, "{\"note\":\"%7B%22iban%22%3A%22" + SECRET + "%22%7D\"}"},
            new String[] {JSON, "{\"note\":\"" + base64("{\"iban\":\"" + SECRET + "\"}") + "\"}"},
            new String[] {JSON, "\u00A0{\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, "data: {\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, ")]}'\n{\"iban\":\"" + SECRET + "\"}"},
            new String[] {TEXT, "data: {\"iban\":\"" + SECRET + "\"}"},
            new String[] {"", ")]}'\n{\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, "{\"a\":1} {\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, "{\"a\":1}\n\"iban\":\"" + SECRET + "\""},
            new String[] {JSON, "{iban:\"" + SECRET + "\"}"},
            new String[] {JSON, "{'iban':'" + SECRET + "'}"},
            new String[] {JSON, "{/* , */\"iban\":\"" + SECRET + "\"}"},
            new String[] {JSON, "{\"iban\":\"" + SECRET},
            new String[] {JSON, "{\"iban\":" + SECRET + " " + SECRET + "}"},
            new String[] {JSON, "\"" + SECRET + "\""},
            new String[] {JSON, "{\"contact\":[{\"mail\":\"" + SECRET + "\"}]}"},
            new String[] {JSON, "{\"note\":\"contact: {mail: " + SECRET + "}\"}"},
            new String[] {JSON, "[".repeat(300) + "{\"iban\":\"" + SECRET + "\"}"},
            new String[] {TEXT, "{\"iban\":\"" + SECRET + "\"} and more"},
            new String[] {TEXT, "<a><iban>" + SECRET + "</iban>"});

    private static final List<String[]> BY_PATTERN = List.of(
            new String[] {CSV, SECRET + ";Mora\nAuda;2"},
            new String[] {CSV, "name;" + SECRET + "\nAuda;2"},
            new String[] {JSON, "{\"" + SECRET + "\":1}"},
            new String[] {JSON, "{\"\\u005ayxwv98765\":1}"},
            new String[] {XML, "<a><Zyxwv98765/></a>"},
            new String[] {XML, "<a Zyxwv98765='1'/>"},
            new String[] {XML, "<a/> Zyxwv98765"},
            new String[] {XML, "<a><?x Zyxwv98765?></a>"},
            new String[] {JSON, "{\"a\":1} Zyxwv98765"},
            new String[] {JSON, "Zyxwv98765"},
            new String[] {TEXT, "at " + SECRET + " it"},
            new String[] {TEXT, "[2027-03-18] " + SECRET},
            new String[] {"", base64("an " + SECRET)});

    private static String base64(String text) {
        return Base64.getEncoder().encodeToString(text.getBytes(StandardCharsets.UTF_8));
    }

    private static void isHidden(Masking masking, String type, String payload) {
        var masked = masking.payload(type, payload);
        var view = PayloadView.of(type, payload, masking, "cannot read /a/iban at line 1, column 9");
        for (var shown : List.of(masked.text(), view.text() + view.table())) {
            assertThat(shown).doesNotContain(SECRET, "98765", base64(SECRET)).contains(Masking.HIDDEN);
            for (var form : Unescaped.forms(shown)) assertThat(form).doesNotContain(SECRET);
        }
        assertThat(masked.hidden()).isPositive();
    }

    @ParameterizedTest
    @FieldSource("BY_PATH")
    void aPathHidesItHoweverItIsBroughtIn(String type, String payload) {
        isHidden(PATHS, type, payload);
    }

    @ParameterizedTest
    @FieldSource("BY_PATTERN")
    void aPatternHidesItHoweverItIsBroughtIn(String type, String payload) {
        isHidden(PATTERN, type, payload);
    }

    private static List<String[]> harmless() {
        return List.of(
                new String[] {CSV, "name;harbour\nMora;TORVE"},
                new String[] {CSV, "sep=;\nname;harbour;\nMora;TORVE;"},
                new String[] {XML, "<a><contact><name>Mora</name></contact><mail>to the harbour</mail></a>"},
                new String[] {XML, "\uFEFF<?xml version=\"1.0\"?>\n<a/>\n"},
                new String[] {JSON, "{\"note\":\"the iban was refused\",\"mail\":\"M-1\"}"},
                new String[] {JSON, "{\"ibans\":2}\n{\"note\":\"mail: 2\"}\n"},
                new String[] {TEXT, "[2027-03-18] the harbour did not answer: <timeout>"},
                new String[] {"", "order 4711 has no harbour"});
    }

    @ParameterizedTest
    @MethodSource
    void harmless(String type, String payload) {
        assertThat(PATHS.payload(type, payload).text()).isEqualTo(payload);
        assertThat(PATTERN.payload(type, payload).text()).isEqualTo(payload);
    }

    @Property(tries = 60)
    void noValueIsSeenBecauseItStandsAcrossWhereAPayloadIsCut(@ForAll("cuts") int before, @ForAll boolean path) {
        var payload = "{\"n\":\"" + "x".repeat(before) + "\",\"iban\":\"" + SECRET + "\",\"m\":\"" + "y".repeat(500_000)
                + "\"}";
        var read = payload.substring(0, PayloadView.LONGEST_READ);
        var view = PayloadView.of(JSON, read, payload.length(), path ? PATHS : PATTERN, "");
        for (int seen = 4; seen <= SECRET.length(); seen++)
            assertThat(view.text()).doesNotContain(SECRET.substring(0, seen));
        assertThat(view.remark()).contains("The first 262,144 of %,d characters".formatted(payload.length()));
    }

    @Provide
    Arbitrary<Integer> cuts() {
        return Arbitraries.integers().between(PayloadView.LONGEST_SHOWN - 40, PayloadView.LONGEST_SHOWN + 5);
    }

    /** Fields beside each other and within each other, broken off anywhere. */
    @Property(tries = 600)
    void wherePayloadsBreakOffNothingIsUncovered(@ForAll("documents") String document, @ForAll("shares") double share) {
        var cut = document.substring(0, (int) (document.length() * share));
        var type = document.startsWith("<") ? XML : JSON;
        for (int seen = 5; seen <= SECRET.length(); seen++)
            assertThat(PATHS.payload(type, cut).text()).doesNotContain(SECRET.substring(0, seen));
    }

    @Provide
    Arbitrary<Double> shares() {
        return Arbitraries.doubles().between(0, 1);
    }

    @Provide
    Arbitrary<String> documents() {
        var json = Arbitraries.lazyOf(
                () -> Arbitraries.of("1", "\"a\"", "\"x\\\\\"", "null"),
                () -> document(0).list().ofMaxSize(3).map(all -> "[" + String.join(" , ", all) + "]"),
                () -> document(0).list().ofMaxSize(3).map(all -> {
                    var members = new ArrayList<>(
                            all.stream().map(one -> "\"k\":" + one).toList());
                    members.add("\"iban\" : \"" + SECRET + "\"");
                    return "{" + String.join(",", members) + "}";
                }));
        var xml = Arbitraries.integers().between(0, 4).list().ofMaxSize(6).map(pieces -> {
            var out = new StringBuilder("<a>");
            for (int piece : pieces)
                out.append(
                        switch (piece) {
                            case 0 -> "text";
                            case 1 -> "<b c='d'/>";
                            case 2 -> "<!-- note -->";
                            case 3 -> "<![CDATA[<]]>";
                            default -> "<iban no='" + SECRET + "'>" + SECRET + "<x>" + SECRET + "</x></iban>";
                        });
            return out.append("</a>").toString();
        });
        return Arbitraries.oneOf(json.map(one -> "[" + one + "]"), xml);
    }

    private static Arbitrary<String> document(int depth) {
        return Arbitraries.of("1", "\"a\"", "{\"iban\":\"" + SECRET + "\"}", "[\"\\\"\"]");
    }
}
