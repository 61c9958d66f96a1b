package app.morvet.core.estate;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.regex.Pattern;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;

class NamePatternTest {
    @Test
    void signsOfPatternsOfOtherSortsMeanThemselves() {
        assertThat(NamePattern.fits("a.c", "abc")).isFalse();
        assertThat(NamePattern.fits("a.c*", "a.cd")).isTrue();
        assertThat(NamePattern.fits("[a]*", "[a]")).isTrue();
        assertThat(NamePattern.fits("\\Qa\\E*", "a")).isFalse();
        assertThat(NamePattern.fits("*", "")).isTrue();
        assertThat(NamePattern.fits("line*", "line\nbreak")).isTrue();
    }

    /** A star is any text: whatever is put for it fits. */
    @Property
    void whateverIsPutForAStarFits(
            @ForAll @StringLength(max = 5) @CharRange(from = 'a', to = 'c') String head,
            @ForAll @StringLength(max = 5) String middle,
            @ForAll @StringLength(max = 5) @CharRange(from = 'a', to = 'c') String tail) {
        assertThat(NamePattern.fits(head + "*" + tail, head + middle + tail)).isTrue();
        assertThat(NamePattern.fits(head + "*" + tail, "x" + head + middle + tail))
                .isEqualTo(head.isEmpty());
    }

    /** The oracle is what regular expressions say of the same. */
    @Property(tries = 2000)
    void anyPatternFitsAsTheRegularExpressionOfItDoes(
            @ForAll @StringLength(min = 1, max = 7) @Chars({'a', 'B', '*'}) String pattern,
            @ForAll @StringLength(max = 9) @Chars({'a', 'b', 'A'}) String text) {
        var expression = Pattern.compile(pattern.replace("*", ".*"), Pattern.CASE_INSENSITIVE);
        assertThat(NamePattern.fits(pattern, text))
                .isEqualTo(expression.matcher(text).matches());
    }
}
