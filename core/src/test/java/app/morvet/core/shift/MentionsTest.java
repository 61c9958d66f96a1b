package app.morvet.core.shift;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What people name in their notes. */
class MentionsTest {
    private static final Mentions.Known KNOWN = new Mentions.Known(
            Set.of(76L, 8L)::contains,
            Set.of("analyst2", "otso.haapala")::contains,
            Set.of("quay-03", "gate", "ov-eu-7")::contains);

    private static String named(String words) {
        return Mentions.in(words, KNOWN).stream()
                .filter(one -> one.kind() != Mentions.Kind.TEXT)
                .map(one -> one.kind() + " " + one.of())
                .collect(Collectors.joining(", "));
    }

    @ParameterizedTest
    @CsvSource({
        "look at #76 again,                     CASE 76",
        "as in case 8 and Case 76.,             'CASE 8, CASE 76'",
        "#9 is not there,                       ''",
        "ask @otso.haapala. He knows,           PERSON otso.haapala",
        "write to me@analyst2.example,          ''",
        "@nobody @analyst2,                     PERSON analyst2",
        "the disk of quay-03 (not quay-033),    COMPONENT quay-03",
        "a gate is open,                        ''",
        "see https://logs.example/ov-eu-7/x,    ''",
        "ov-eu-7: #8,                           'COMPONENT ov-eu-7, CASE 8'",
        "76 of 8,                               ''",
    })
    void onlyWhatIsThereIsNamed(String words, String named) {
        assertThat(named(words)).isEqualTo(named);
    }

    @Test
    void thePiecesTogetherAreTheWords() {
        for (var words : new String[] {"", "#76", "a #76b #76 quay-03, @analyst2!", "##76 @@analyst2 case 76 case 8"})
            assertThat(Mentions.in(words, KNOWN).stream()
                            .map(Mentions.Piece::words)
                            .collect(Collectors.joining()))
                    .isEqualTo(words);
    }

    @Test
    void whoIsNamedIsKnownWithoutAskingForTheRest() {
        assertThat(Mentions.names("tell @analyst2 of it", "analyst2")).isTrue();
        assertThat(Mentions.names("tell @analyst of it", "analyst2")).isFalse();
        assertThat(Mentions.names("tell @analyst2 of it", "analyst")).isFalse();
    }
}
