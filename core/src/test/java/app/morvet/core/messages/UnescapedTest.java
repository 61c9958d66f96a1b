package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a text says once the ways to write a character otherwise are undone: a mask must not be got round by one. */
class UnescapedTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    FI\\u0032\\u0031            | FI21
                    \\x46\\x49 21               | FI 21
                    FI%3221                     | FI221
                    %C3%84ngelhamn              | Ängelhamn
                    &#70;&#73; 21               | FI 21
                    &#x46;&#x49; 21             | FI 21
                    a &amp; b &lt;c&gt;         | a & b <c>
                    &quot;x&quot; &apos;y&apos; | "x" 'y'
                    \\"quoted\\"                | "quoted"
                    """)
    void aCharacterWrittenOtherwiseIsThatCharacter(String written, String meant) {
        assertThat(Unescaped.forms(written)).contains(meant);
    }

    @Test
    void whatIsWrittenSoSeveralTimesIsUndoneSeveralTimes() {
        assertThat(Unescaped.forms("&amp;#70;I")).contains("FI");
        assertThat(Unescaped.forms("%2525%2541")).contains("%25%41", "%A");
        assertThat(Unescaped.forms("plain")).containsExactly("plain");
    }

    @Property
    void whatIsCodedInBase64IsDecodedInEitherAlphabet(
            @ForAll @StringLength(min = 6, max = 60) @CharRange(from = ' ', to = '~') String text) {
        var bytes = text.getBytes(StandardCharsets.UTF_8);
        assertThat(Unescaped.forms("token=" + Base64.getEncoder().encodeToString(bytes) + ";"))
                .contains(text);
        assertThat(Unescaped.forms(
                        "token " + Base64.getUrlEncoder().withoutPadding().encodeToString(bytes)))
                .contains(text);
    }

    @Property
    void ofNoTextItFails(@ForAll String text) {
        assertThat(Unescaped.forms(text)).contains(text);
        Unescaped.json(text);
        Unescaped.entities(text);
    }

    @Test
    void entitiesThatADocumentTypeWouldDefineAreNotGuessedAt() {
        assertThat(Unescaped.entities("a &amp; &#x42; &#67;")).isEqualTo("a & B C");
        assertThat(Unescaped.entities("a &harbour;")).isNull();
        assertThat(Unescaped.entities("a & b")).isNull();
        assertThat(Unescaped.entities("a &amp")).isNull();
        assertThat(Unescaped.entities("plain")).isEqualTo("plain");
    }

    @Test
    void theInsideOfAStringInJsonIsReadAsJsonSays() {
        assertThat(Unescaped.json("a\\nb\\t\\\"c\\\" \\u00c4 \\/ \\\\")).isEqualTo("a\nb\t\"c\" Ä / \\");
        assertThat(Unescaped.json("cut \\u00")).isEqualTo("cut \\u00");
        assertThat(Unescaped.json("bad \\uZZZZ")).isEqualTo("bad \\uZZZZ");
        assertThat(Unescaped.json("end\\")).isEqualTo("end\\");
    }
}
