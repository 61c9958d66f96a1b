package app.morvet.core.estate;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ComponentKeyTest {
    @ParameterizedTest
    @CsvSource({
        "Freight Systems, freight-systems",
        "Bränsle & Stores 2, bransle-stores-2",
        "  Häfen – Fähre!, hafen-fahre",
        "/usr/local/bin/bank_file.sh, usr-local-bin-bank-file-sh",
        "x, x",
        "🚢, ''"
    })
    void aNameMakesAKey(String name, String key) {
        assertThat(ComponentKey.of(name)).isEqualTo(key);
    }

    @ParameterizedTest
    @ValueSource(strings = {"quay-03", "Bank file", "a.b:c_d", "Häfen – Fähre", "🚢", "x", "100 %", "?name=1#2"})
    void oneLineThatCanStandInAnAddressIsTaken(String key) {
        assertThat(ComponentKey.refusal(key)).isNull();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "  ",
                "a/b",
                "a\\b",
                "a;b",
                "a\nb",
                "a\rb",
                "a\tb",
                "a\u0000b",
                "a\u2028b",
                "\ud800",
                "a\udc00",
                ".",
                "..",
                "\u007f"
            })
    void whatCannotIsRefusedWithWhatIsAllowed(String key) {
        assertThat(ComponentKey.refusal(key)).contains("a key is one line of at most 200 characters");
    }

    @Test
    void itIsSaidWhatIsWrongAndWhere() {
        assertThat(ComponentKey.refusal("berth/7")).startsWith("it has / at place 6");
        assertThat(ComponentKey.refusal("x".repeat(200))).isNull();
        assertThat(ComponentKey.refusal("x".repeat(1201))).startsWith("it has 1,201 characters");
    }
}
