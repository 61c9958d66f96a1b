package app.morvet.core.messages;

import static java.nio.charset.StandardCharsets.ISO_8859_1;
import static java.nio.charset.StandardCharsets.UTF_16;
import static java.nio.charset.StandardCharsets.UTF_16BE;
import static java.nio.charset.StandardCharsets.UTF_16LE;
import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import org.junit.jupiter.api.Test;

/** Which bytes are a text, and which text. */
class PayloadTextTest {
    private static final String NAME = "Göta älv – Ängelhamn";

    @Test
    void whatNothingNamesIsUtf8() {
        assertThat(PayloadText.of("text/plain", NAME.getBytes(UTF_8))).contains(NAME);
        assertThat(PayloadText.of("", NAME.getBytes(UTF_8))).contains(NAME);
    }

    @Test
    void aByteOrderMarkDecidesBeforeAllElseAndIsNoPartOfTheText() {
        assertThat(PayloadText.of("text/plain; charset=iso-8859-1", NAME.getBytes(UTF_16)))
                .contains(NAME);
        assertThat(PayloadText.of("text/plain", ("\uFEFF" + NAME).getBytes(UTF_16LE)))
                .contains(NAME);
        assertThat(PayloadText.of("text/plain", ("\uFEFF" + NAME).getBytes(UTF_8)))
                .contains(NAME);
    }

    @Test
    void theMediaTypeNamesItAndThenTheXmlItself() {
        var latin = "Ängelhamn".getBytes(ISO_8859_1);
        assertThat(PayloadText.of("text/plain; charset=ISO-8859-1", latin)).contains("Ängelhamn");
        assertThat(PayloadText.of("text/plain; charset=\"iso-8859-1\"; format=flowed", latin))
                .contains("Ängelhamn");
        var declared = "<?xml version='1.0' encoding='ISO-8859-1'?><a>Ängelhamn</a>";
        assertThat(PayloadText.of("application/xml", declared.getBytes(ISO_8859_1)))
                .contains(declared);
        assertThat(PayloadText.of("application/xml; charset=utf-8", declared.getBytes(UTF_8)))
                .contains(declared);
    }

    @Test
    void aCharsetThatThereIsNotIsTakenForUtf8() {
        assertThat(PayloadText.of("text/plain; charset=shanty-7", NAME.getBytes(UTF_8)))
                .contains(NAME);
        assertThat(PayloadText.of("text/plain; charset=..", NAME.getBytes(UTF_8)))
                .contains(NAME);
    }

    @Test
    void halfATextIsNone() {
        assertThat(PayloadText.of("text/plain", "Ängelhamn".getBytes(ISO_8859_1)))
                .isEmpty();
        var cut = NAME.getBytes(UTF_8);
        assertThat(PayloadText.of("text/plain", java.util.Arrays.copyOf(cut, 2)))
                .isEmpty();
        assertThat(PayloadText.of("text/plain", new byte[] {'a', 0, 'b'})).isEmpty();
        assertThat(PayloadText.of("text/plain", new byte[] {0x1b, '['})).isEmpty();
        assertThat(PayloadText.of("text/plain", "a\tb\r\nc\f".getBytes(UTF_8))).isPresent();
        assertThat(PayloadText.of("text/plain", new byte[0])).contains("");
    }

    @Property
    void whateverIsWrittenIsReadAgain(@ForAll @CharRange(from = ' ', to = '\u2fff') String text) {
        assertThat(PayloadText.of("text/plain", text.getBytes(UTF_8))).contains(text);
        assertThat(PayloadText.of("text/plain; charset=utf-16be", text.getBytes(UTF_16BE)))
                .contains(text);
    }
}
