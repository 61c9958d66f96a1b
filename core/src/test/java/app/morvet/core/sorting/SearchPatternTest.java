package app.morvet.core.sorting;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.Locale;
import net.jqwik.api.Assume;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is asked of a text before the engine is: it may let too much through, and must keep nothing out. */
class SearchPatternTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '→',
            quoteCharacter = '`',
            textBlock =
                    """
                    timed out after \\d+ (?:ms|s) 5 → `timed out after `
                    certificate .{0,200}expired   → `certificate `
                    a|b                           → ``
                    (abc|d)efg                    → efg
                    colou?r code                  → `r code`
                    ab*c                          → a
                    [abc]def[^x]                  → def
                    []x]yz                        → yz
                    x{2}yy                        → yy
                    \\Qa.b\\E                       → ``
                    \\p{L}abc                      → ``
                    abc\\p{L}|d                    → ``
                    \\222?abc                     → ``
                    abc\\x41|d                    → ``
                    lost(?i)*                    → ``
                    (?i)lost                     → lost
                    .*                            → ``
                    """)
    void theLongestThatMustStandThereIsSeen(String pattern, String required) {
        assertThat(SearchPattern.required(pattern)).isEqualTo(required == null ? "" : required);
    }

    @Property(tries = 5000)
    void whatTheEngineFindsIsNeverKeptFromIt(
            @ForAll
                    @StringLength(min = 1, max = 9)
                    @Chars({'a', 'b', 'C', '|', '(', ')', '[', ']', '*', '?', '+', '.', '\\', 'd', '^', '{', '2', '}'})
                    String pattern,
            @ForAll @StringLength(max = 8) @Chars({'a', 'B', 'c', '2', 'd', '[', '{'}) String text) {
        Pattern engine;
        try {
            engine = Pattern.compile(pattern, Pattern.CASE_INSENSITIVE);
        } catch (PatternSyntaxException none) {
            Assume.that(false);
            return;
        }
        assertThat(SearchPattern.of(pattern).foundIn(text, text.toLowerCase(Locale.ROOT)))
                .isEqualTo(engine.matcher(text).find());
    }

    @Test
    void aLongSIsAnS() {
        assertThat(SearchPattern.of("sos").foundIn("\u017Fo\u017F", "\u017Fo\u017F"))
                .isTrue();
    }
}
