package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What of a text can be found by which words. */
class SearchWordsTest {
    private static List<String> words(String text) {
        return List.of(SearchWords.of(text).strip().split("\\s+"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
                    {"ship":"Aurelia"}                    | Aurelia
                    <ship name='x'>Aurelia</ship>         | Aurelia
                    a;b;Aurelia;c                         | Aurelia
                    /data/inbound/fares.csv               | inbound
                    java.net.SocketTimeoutException: late | SocketTimeoutException
                    java.net.SocketTimeoutException: late | Timeout
                    java.net.SocketTimeoutException: late | net
                    code=AB-12                            | AB-12
                    rate 3.75 refused                     | 3.75
                    v1.2.3                                | v1.2.3
                    """)
    void aValueIsAWordWhereverItStands(String text, String word) {
        assertThat(words(text)).contains(word);
    }

    @Test
    void theWholeOfANameInCamelCaseStandsBesideItsParts() {
        assertThat(words("ReadTimeoutException"))
                .containsExactly("ReadTimeoutException", "Read", "Timeout", "Exception");
        assertThat(words("HTTPError"))
                .as("letters that stand together are one part")
                .contains("HTTPError");
        assertThat(words("key MF-42X-9, late"))
                .as("what a person copies from a ticket is there as a whole")
                .containsExactly("key", "MF-42X-9", "42", "X", "late");
        assertThat(words("plain words")).containsExactly("plain", "words");
        assertThat(words("aB".repeat(50))).as("no name is that long").hasSize(1);
    }

    @Test
    void whatIsAskedForKeepsItsQuotesAndSigns() {
        assertThat(SearchWords.asked("  \"no answer\" -late or <gate> ")).isEqualTo("\"no answer\" -late or  gate");
        assertThat(SearchWords.asked("java.net.Socket")).isEqualTo("java net Socket");
    }

    @Test
    void ofALongTextTheFirstPartIsFound() {
        var text = "x ".repeat(SearchWords.LONGEST);
        assertThat(SearchWords.of(text)).hasSize(SearchWords.LONGEST);
        assertThat(SearchWords.of("y".repeat(SearchWords.LONGEST - 2) + " z tail"))
                .endsWith(" z");
    }

    /** The word that is asked for is treated as the word that is kept, so it is found. */
    @Property
    void whateverStandsInATextIsFoundByItself(@ForAll @CharRange(from = ' ', to = '~') String text) {
        var kept = List.of(SearchWords.of(text).split("\\s+"));
        for (var asked : SearchWords.asked(text.replace('"', ' ')).split("\\s+"))
            if (!asked.isEmpty()) assertThat(kept).contains(asked);
    }
}
