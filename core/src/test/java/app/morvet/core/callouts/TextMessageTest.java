package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;

/** Words in one text message. */
class TextMessageTest {
    private static final String LINK = "https://morvet.sundrava.example/take/AbCdEfGhIjKlMnOp";

    @Test
    void whatFitsStaysAsItIs() {
        assertThat(TextMessage.of("Critical: boarding-gate is stopped on quay-04 (case 12)", LINK))
                .isEqualTo("Critical: boarding-gate is stopped on quay-04 (case 12) " + LINK);
        assertThat(TextMessage.of("Over: it runs", "")).isEqualTo("Over: it runs");
    }

    @Test
    void whatIsTooLongIsCutAtItsEndAndNeverTheLink() {
        var text = TextMessage.of("Critical: " + "very long ".repeat(40), LINK);
        assertThat(text).hasSize(160).endsWith("... " + LINK);
    }

    @Test
    void lettersThatNotEveryTelephoneHasMakeItShorter() {
        assertThat(TextMessage.of("Kriittinen: lauttaväylä Örö, Åva", ""))
                .as("these are in the default alphabet")
                .isEqualTo("Kriittinen: lauttaväylä Örö, Åva");
        var other = TextMessage.of("Kriitiline: sõiduplaan õhtul ".repeat(4), "");
        assertThat(other).hasSize(70).endsWith("...");
        assertThat(TextMessage.fits("õ".repeat(70))).isTrue();
        assertThat(TextMessage.fits("õ".repeat(71))).isFalse();
    }

    @Test
    void someSignsCountTwice() {
        assertThat(TextMessage.fits("€".repeat(80))).isTrue();
        assertThat(TextMessage.fits("€".repeat(80) + "a")).isFalse();
    }

    @Test
    void signsThatOnlyLookBetterBecomePlain() {
        assertThat(TextMessage.of("“bank-file” is late – 8 % to make it…", ""))
                .isEqualTo("\"bank-file\" is late - 8 % to make it...");
    }

    @Test
    void aLinkThatFillsAMessageStandsAlone() {
        assertThat(TextMessage.of("Critical", "h".repeat(158))).isEqualTo("h".repeat(158));
        assertThatThrownBy(() -> TextMessage.of("", "h".repeat(161)))
                .hasMessageContaining("longer than a text message");
    }

    @Property(tries = 300)
    void itAlwaysFitsAndAlwaysBearsTheLink(@ForAll @StringLength(max = 300) String words) {
        var text = TextMessage.of(words, "https://m.example/take/AbCdEfGhIjKlMnOp");
        assertThat(TextMessage.fits(text)).isTrue();
        assertThat(text).endsWith("https://m.example/take/AbCdEfGhIjKlMnOp");
    }
}
