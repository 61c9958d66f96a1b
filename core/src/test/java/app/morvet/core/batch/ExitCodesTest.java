package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** What exit codes mean, as people write it. */
class ExitCodesTest {
    @Provide
    Arbitrary<Map<Integer, ExitCodes.Meaning>> meanings() {
        var words = Arbitraries.strings().withChars("abc =:4#é").ofMaxLength(20).map(String::strip);
        return Arbitraries.maps(
                        Arbitraries.integers().between(-999_999_999, 999_999_999),
                        Combinators.combine(Arbitraries.of(Run.End.FINE, Run.End.WARNED, Run.End.FAILED), words)
                                .as(ExitCodes.Meaning::new))
                .ofMaxSize(8);
    }

    @Property
    void whatIsWrittenIsReadAgain(@ForAll("meanings") Map<Integer, ExitCodes.Meaning> meanings) {
        var codes = new ExitCodes(meanings);
        assertThat(ExitCodes.read(codes.text())).isEqualTo(codes);
        meanings.forEach((code, meaning) -> assertThat(codes.of(code)).isEqualTo(meaning));
    }

    @Test
    void whatIsNotSaidIsFineAtZeroOnly() {
        var codes = ExitCodes.read("4 = warning: nothing to do\r\n\n  8=failed  ");
        assertThat(codes.of(0).end()).isEqualTo(Run.End.FINE);
        assertThat(codes.of(1).end()).isEqualTo(Run.End.FAILED);
        assertThat(codes.of(-1).end()).isEqualTo(Run.End.FAILED);
        assertThat(codes.of(4)).isEqualTo(new ExitCodes.Meaning(Run.End.WARNED, "nothing to do"));
        assertThat(codes.of(8).end()).isEqualTo(Run.End.FAILED);
        assertThat(ExitCodes.read("0 = failed").of(0).end()).isEqualTo(Run.End.FAILED);
    }

    @Test
    void whatIsWrongIsNamed() {
        assertThatThrownBy(() -> ExitCodes.read("4 = warning\n5 = odd"))
                .hasMessageStartingWith("\"5 = odd\" is not read: write code = fine, warning or failed");
        assertThatThrownBy(() -> ExitCodes.read("99999999999 = fine")).hasMessageContaining("is not read");
        assertThatThrownBy(() -> ExitCodes.read("4 = warning: a\n4 = failed"))
                .hasMessage("code 4 is given twice: take one of the two lines out");
    }
}
