package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CsvTest {
    private static String written(Object... cells) {
        var text = new StringBuilder();
        try (var out = new Csv(text)) {
            out.line(cells);
        }
        return text.toString();
    }

    @ParameterizedTest
    @ValueSource(strings = {"=1+1", "+49 30", "-cmd|' /C calc'!A0", "@SUM(A1)", "\tx", "\rx"})
    void whatASpreadsheetWouldReckonIsMarkedAsText(String formula) {
        assertThat(written(formula, "next")).contains("'" + formula.charAt(0));
        assertThat(Csv.plain("'" + formula)).isEqualTo(formula);
    }

    /** A quote that it has itself is not taken for the mark. */
    @ParameterizedTest
    @ValueSource(strings = {"=1+1", "'=1+1", "''-3", "'quoted'", "'", "", "it's", "-"})
    void whatIsWrittenIsReadBackAsItWas(String text) {
        var cell = written(text, "next").replace(",next\r\n", "").replaceAll("^\"|\"$", "");
        assertThat(Csv.plain(cell)).isEqualTo(text);
    }

    @Test
    void numbersAndPlainTextsAreWrittenAsTheyAre() {
        assertThat(written(-3, 0.5, "a-b", "", null)).isEqualTo("-3,0.5,a-b,,\r\n");
        assertThat(written("say \"so\", twice")).isEqualTo("\"say \"\"so\"\", twice\"\r\n");
        assertThat(Csv.plain("'quoted'")).isEqualTo("'quoted'");
        assertThat(Csv.plain("'")).isEqualTo("'");
    }

    @Test
    void aLineMayBeAList() {
        var text = new StringBuilder();
        try (var out = new Csv(text)) {
            out.line(List.of("key", "=name")).line(List.of("1", "2"));
        }
        assertThat(text).hasToString("key,'=name\r\n1,2\r\n");
    }
}
