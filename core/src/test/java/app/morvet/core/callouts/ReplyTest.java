package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ReplyTest {
    private static final String CODE = "Ab0_-Ab0_-Ab0_-x";

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    'The partner restarts it.'                                             | 'The partner restarts it.'
                    'On it.\n\nOn Thu, Morvet wrote:\n> Critical\n> Take it'               | 'On it.'
                    'Looks bad:\n\nall is down\n> Critical'                                | 'Looks bad:\n\nall is down'
                    'Am 18.03. schrieb Morvet:\n\n> Critical'                              | ''
                    'First\n-----Original Message-----\nFrom: Morvet'                      | 'First'
                    'First\n________________________________\nFrom: Morvet'                | 'First'
                    'I look\n\n-- \nOtso, Freight'                                         | 'I look'
                    'a\n\n\n\nb\nTake it: http://x/take/abc'                               | 'a\n\nb'
                    '> only quoted'                                                        | ''
                    'minus - is no rule\n- a list\n- goes on'                              | 'minus - is no rule\n- a list\n- goes on'
                    """)
    void theWordsAreWhatStandsAboveWhatIsQuoted(String mail, String words) {
        assertThat(Reply.words(mail.replace("\\n", "\r\n"))).isEqualTo(words.replace("\\n", "\n"));
    }

    @Test
    void theCodesAreThoseOfLinksOnly() {
        assertThat(Reply.codes("> http://morvet/take/" + CODE + "\n<a href=\"http://morvet/take/" + CODE + "\">"))
                .containsExactly(CODE);
        assertThat(Reply.codes("/take/" + CODE + "y and /take/short and " + CODE))
                .isEmpty();
    }

    @Test
    void whatNoTextHoldsIsLeftOut() {
        assertThat(Reply.words("a\0b\u0007\tc")).isEqualTo("ab\tc");
    }

    @Test
    void aBookIsCut() {
        assertThat(Reply.words("x".repeat(9000))).hasSize(Reply.LONGEST + 2).endsWith(" …");
    }
}
