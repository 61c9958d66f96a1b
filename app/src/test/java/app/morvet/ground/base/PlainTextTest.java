package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class PlainTextTest {
    @Test
    void aMarkStandsForWhatTheStoreDoesNotTake() {
        assertThat(PlainText.of("a\0b")).isEqualTo("a\uFFFDb");
        assertThat(PlainText.of("\ud83d")).isEqualTo("\uFFFD");
        assertThat(PlainText.of("\udea2\ud83d x")).isEqualTo("\uFFFD\uFFFD x");
        assertThat(PlainText.of("ship \ud83d\udea2 \0")).isEqualTo("ship \ud83d\udea2 \uFFFD");
    }

    @Test
    void whatIsPlainIsGivenBackItself() {
        var text = "Häfen \ud83d\udea2";
        assertThat(PlainText.of(text)).isSameAs(text);
    }

    @Test
    void noCharacterIsCutInHalf() {
        assertThat(PlainText.cut("ship \ud83d\udea2", 6)).isEqualTo("ship …");
        assertThat(PlainText.cut("ship \ud83d\udea2", 7)).isEqualTo("ship \ud83d\udea2");
        assertThat(PlainText.cut("ferry", 3)).isEqualTo("fer…");
    }
}
